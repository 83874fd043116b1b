#pragma once

#include "app/desk/asker.h"
#include "app/lists/entries_model.h"
#include "core/watchlists/entry.h"

#include <QWidget>
#include <functional>
#include <memory>
#include <optional>

class QComboBox;
class QDateEdit;
class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;
class QTextBrowser;
class QToolButton;

namespace sieve::app {

/// All that is kept and told of one entry, to read and to write. What is typed is kept when the
/// line is left, another entry is chosen, or the window closes.
class EntryPage : public QWidget {
    Q_OBJECT
public:
    EntryPage();
    ~EntryPage() override;

    /// `row` of the list; less than zero: none is chosen.
    void show(std::shared_ptr<const ShownList> shown, int row);
    /// The file that holds a picture of that name.
    void setPicturePath(std::function<QString(const std::string&)> path);
    void setCategories(const QStringList& categories); ///< that are in use
    const std::optional<watchlists::Entry>& entry() const { return entry_; }
    /// What is typed and not kept yet is told by edited().
    void takeTyped();
    void focusNote(); ///< to write a new one

    using Change = std::function<void(watchlists::Entry&)>;

Q_SIGNALS:
    /// The list as it was shown, its entry as it was, what is done in a few words, and the change.
    void edited(const sieve::app::ShownList& list, const sieve::watchlists::Entry& entry,
                const QString& what, const sieve::app::EntryPage::Change& change);
    void planAsked();
    void tradeAsked(bool isSale);
    void failed(const QString& why);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget* makeFacts();
    QWidget* makeNotes();
    QWidget* makeLinks();
    void fill();
    void fitHeight();
    void showNotes();
    void showPicture();
    void showCourse();
    void takeReason();
    void takeNote();
    void takeTags();
    void takeCategory();
    void takeReview();
    void takeLink();
    void followLink(const QUrl& link);
    void edit(const QString& what, const Change& change);

    std::shared_ptr<const ShownList> shown_;
    std::optional<watchlists::Entry> entry_;
    int row_ = -1;
    bool isReviewTyped_ = false;        ///< the day of review is another, and not taken yet
    std::optional<std::size_t> noteAt_; ///< that is written anew; empty: a new one

    QWidget* page_;
    QLabel* none_;
    QLabel* name_;
    QLabel* state_;
    QLabel* added_;
    QLineEdit* reason_;
    QComboBox* category_;
    QLineEdit* tags_;
    QComboBox* sign_;
    QDateEdit* review_;
    QPushButton* noReview_;
    QLabel* plan_;
    QPushButton* planButton_;
    QLabel* position_;
    QPushButton* sold_;
    QTextBrowser* notes_;
    QPlainTextEdit* note_;
    QLabel* links_;
    QLineEdit* link_;
    QLabel* course_;
    QLabel* pictureTitle_;
    QLabel* picture_;
    std::function<QString(const std::string&)> picturePath_;
    Asker pictures_; ///< read beside the window's thread
};

} // namespace sieve::app
