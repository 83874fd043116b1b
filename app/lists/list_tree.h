#pragma once

#include "core/library/work.h"

#include <QMimeData>
#include <QTreeWidget>
#include <cstdint>
#include <functional>
#include <optional>
#include <vector>

namespace sieve::app {

/// The names of the lists in their folders, each with how many it holds. Stocks and entries are
/// dropped onto a name; a list is dropped onto a folder or between others.
class ListTree : public QTreeWidget {
    Q_OBJECT
public:
    ListTree();

    static QString archiveName() { return tr("Archive"); }

    /// Archived ones stand in a folder of their own at the end, if they are shown at all.
    void setLists(std::span<const Shared<watchlists::Watchlist>> lists, bool isArchiveShown);
    /// Of a list that a screen keeps: how many are on it by now.
    void setCount(std::int64_t list, std::size_t entries);
    std::optional<std::int64_t> chosen() const; ///< empty: none, or a folder
    void choose(std::int64_t list);
    QString folderChosen() const; ///< that of the chosen list, or the chosen folder

Q_SIGNALS:
    void listChosen();
    /// Something was dropped onto a list. `isMove`: away from where it came.
    void dropped(qint64 list, const QMimeData* data, bool isMove);
    /// A list was dropped: into a folder, before another list (0: at the folder's end).
    void listMoved(qint64 list, const QString& folder, qint64 before);

protected:
    QStringList mimeTypes() const override;
    QMimeData* mimeData(const QList<QTreeWidgetItem*>& items) const override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    QTreeWidgetItem* folderItem(const QString& path);
    QTreeWidgetItem* itemOf(std::int64_t list) const;
    void addList(const watchlists::Watchlist& list);
    bool takes(const QTreeWidgetItem* item, const QMimeData& dragged) const;

    std::map<QString, QTreeWidgetItem*> folders_;
    std::map<std::int64_t, std::size_t> counts_; ///< of lists that screens keep
};

} // namespace sieve::app
