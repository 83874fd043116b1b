#include "app/lists/list_tree.h"

#include "app/lists/entries_model.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QDropEvent>
#include <QHeaderView>
#include <QMimeData>
#include <QTreeWidgetItemIterator>

namespace sieve::app {

namespace {

constexpr int listIdRole = Qt::UserRole;     ///< a list's number; none of a folder
constexpr int folderRole = Qt::UserRole + 1; ///< the path, of a folder or of a list's folder
constexpr int byScreenRole = Qt::UserRole + 2;
constexpr const char* listMimeType = "application/x-wise-sieve-list";

constexpr int nameColumn = 0;
constexpr int countColumn = 1;

} // namespace

ListTree::ListTree()
{
    setColumnCount(2);
    header()->hide();
    header()->setStretchLastSection(false);
    header()->setSectionResizeMode(nameColumn, QHeaderView::Stretch);
    header()->setSectionResizeMode(countColumn, QHeaderView::ResizeToContents);
    setAccessibleName(tr("Watchlists"));
    setRootIsDecorated(true);
    setIndentation(14);
    setDragEnabled(true);
    setAcceptDrops(true);
    setDropIndicatorShown(true);
    setDragDropMode(DragDrop);
    setProperty("roomy", true);
    connect(this, &QTreeWidget::currentItemChanged, this, &ListTree::listChosen);
}

void ListTree::setLists(std::span<const Shared<watchlists::Watchlist>> lists, bool isArchiveShown)
{
    const auto former = chosen();
    const QSignalBlocker quiet(this);
    std::map<QString, bool> closed;
    for (const auto& [path, item] : folders_)
        closed[path] = !item->isExpanded();
    clear();
    folders_.clear();
    for (const auto& list : lists)
        if (!list->head.isArchived)
            addList(*list);
    if (isArchiveShown)
        for (const auto& list : lists)
            if (list->head.isArchived)
                addList(*list);
    for (const auto& [path, item] : folders_)
        item->setExpanded(!closed[path]);
    if (former)
        choose(*former);
    for (QTreeWidgetItemIterator at(this); *at && !currentItem(); ++at)
        if ((*at)->data(0, listIdRole).isValid())
            setCurrentItem(*at);
}

void ListTree::addList(const watchlists::Watchlist& list)
{
    const QString folder = list.head.isArchived ? archiveName() : text(list.head.folder);
    auto* item = new QTreeWidgetItem({text(list.name), QString()});
    item->setData(0, listIdRole, static_cast<qlonglong>(list.id));
    item->setData(0, folderRole, folder);
    item->setData(0, byScreenRole, list.isKeptByRule());
    item->setToolTip(0, list.isKeptByRule()
                            ? tr("Kept by the screen “%1”").arg(text(list.head.screen))
                            : text(list.name));
    item->setTextAlignment(countColumn, Qt::AlignRight | Qt::AlignVCenter);
    item->setForeground(countColumn, look().softInk);
    if (list.isKeptByRule()) {
        QFont slanted = font();
        slanted.setItalic(true);
        item->setFont(0, slanted);
        const auto known = counts_.find(list.id);
        item->setText(countColumn,
                      known == counts_.end() ? QStringLiteral("…") : countText(known->second));
    } else {
        item->setText(countColumn, countText(list.entries.size()));
    }
    if (QTreeWidgetItem* parent = folderItem(folder))
        parent->addChild(item);
    else
        addTopLevelItem(item);
}

/// Made where it is not there; null: no folder.
QTreeWidgetItem* ListTree::folderItem(const QString& path)
{
    if (path.isEmpty())
        return nullptr;
    if (const auto known = folders_.find(path); known != folders_.end())
        return known->second;
    const qsizetype slash = path.lastIndexOf(u'/');
    auto* item = new QTreeWidgetItem({path.mid(slash + 1), QString()});
    item->setData(0, folderRole, path);
    item->setFont(0, fontOf(Weight::SemiBold));
    if (QTreeWidgetItem* parent = slash > 0 ? folderItem(path.left(slash)) : nullptr)
        parent->addChild(item);
    else
        addTopLevelItem(item);
    return folders_[path] = item;
}

QTreeWidgetItem* ListTree::itemOf(std::int64_t list) const
{
    for (QTreeWidgetItemIterator at(const_cast<ListTree*>(this)); *at; ++at)
        if ((*at)->data(0, listIdRole).isValid() && (*at)->data(0, listIdRole).toLongLong() == list)
            return *at;
    return nullptr;
}

void ListTree::setCount(std::int64_t list, std::size_t entries)
{
    counts_[list] = entries;
    QTreeWidgetItem* item = itemOf(list);
    if (item && item->data(0, byScreenRole).toBool())
        item->setText(countColumn, countText(entries));
}

std::optional<std::int64_t> ListTree::chosen() const
{
    const QTreeWidgetItem* item = currentItem();
    return item && item->data(0, listIdRole).isValid()
               ? std::optional<std::int64_t>(item->data(0, listIdRole).toLongLong())
               : std::nullopt;
}

void ListTree::choose(std::int64_t list)
{
    if (QTreeWidgetItem* item = itemOf(list))
        setCurrentItem(item);
}

QString ListTree::folderChosen() const
{
    return currentItem() ? currentItem()->data(0, folderRole).toString() : QString();
}

QStringList ListTree::mimeTypes() const
{
    return {QString::fromLatin1(listMimeType), QString::fromLatin1(entriesMimeType),
            QStringLiteral("text/plain")};
}

QMimeData* ListTree::mimeData(const QList<QTreeWidgetItem*>& items) const
{
    if (items.isEmpty() || !items.front()->data(0, listIdRole).isValid())
        return nullptr; // a folder stays
    auto* dragged = new QMimeData;
    dragged->setData(QString::fromLatin1(listMimeType),
                     items.front()->data(0, listIdRole).toString().toLatin1());
    return dragged;
}

/// Stocks go onto a list that is kept by hand; a list goes anywhere.
bool ListTree::takes(const QTreeWidgetItem* item, const QMimeData& dragged) const
{
    if (dragged.hasFormat(QString::fromLatin1(listMimeType)))
        return true;
    return item && item->data(0, listIdRole).isValid() && !item->data(0, byScreenRole).toBool() &&
           (dragged.hasText() || dragged.hasFormat(QString::fromLatin1(entriesMimeType)));
}

void ListTree::dragMoveEvent(QDragMoveEvent* event)
{
    QTreeWidget::dragMoveEvent(event);
    if (takes(itemAt(event->position().toPoint()), *event->mimeData()))
        event->acceptProposedAction();
    else
        event->ignore();
}

void ListTree::dropEvent(QDropEvent* event)
{
    QTreeWidgetItem* item = itemAt(event->position().toPoint());
    const QMimeData& mime = *event->mimeData();
    if (!takes(item, mime))
        return event->ignore();
    // The tree shows what the work holds: nothing is moved here.
    const bool isMove = event->modifiers() & Qt::ShiftModifier;
    event->setDropAction(Qt::CopyAction);
    event->accept();
    if (!mime.hasFormat(QString::fromLatin1(listMimeType))) {
        Q_EMIT dropped(item->data(0, listIdRole).toLongLong(), &mime, isMove);
        return;
    }
    const qint64 list = mime.data(QString::fromLatin1(listMimeType)).toLongLong();
    const bool isOnList = item && item->data(0, listIdRole).isValid();
    Q_EMIT listMoved(list, item ? item->data(0, folderRole).toString() : QString(),
                     isOnList ? item->data(0, listIdRole).toLongLong() : 0);
}

} // namespace sieve::app
