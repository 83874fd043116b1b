#pragma once

#include "core/dossier/dossier.h"

#include <QDialog>
#include <optional>

class QLabel;
class QLineEdit;
class QTreeWidget;
class QTreeWidgetItem;

namespace sieve::app {

/// The questions of a checklist for one stock: the program answers those that have a rule, the
/// person the others by Y, N or Space; below, the verdict in a sentence. All is told at once.
class VerdictDialog : public QDialog {
    Q_OBJECT
public:
    explicit VerdictDialog(QWidget* parent);
    ~VerdictDialog() override;

    void setStock(const dossier::Dossier& dossier, const market::Market& market,
                  const watchlists::Verdict& verdict);

Q_SIGNALS:
    void answered(const QString& question, std::optional<bool> isYes);
    void said(const QString& verdict);
    void checklistsAsked();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void done(int result) override;

private:
    void tellSentence();
    void answerChosen(int key);

    QLabel* told_;
    QTreeWidget* questions_;
    QLineEdit* sentence_;
    std::optional<std::pair<std::size_t, Day>> of_; ///< stock and day that are shown
};

} // namespace sieve::app
