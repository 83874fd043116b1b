#pragma once

#include "app/desk/asker.h"
#include "app/prove/answer_model.h"
#include "core/base/shared.h"
#include "core/studies/kept_run.h"

#include <QWidget>
#include <memory>
#include <vector>

class QLabel;
class QPlainTextEdit;
class QPushButton;
class QTableView;

namespace sieve::app {

class CurvePicture;
class Desk;
class EmptyPage;

/// The answers that were kept. One that is chosen is shown with its notes; two or more stand beside
/// each other with what differs. Each can be asked again: it is told whether the same comes out, to
/// the last bit, and where not, why.
class KeptView : public QWidget {
    Q_OBJECT
public:
    explicit KeptView(Desk& desk);
    void refresh();
    void askAgain();
    void save();

Q_SIGNALS:
    /// Its question is to be put into the fields.
    void questionWanted(const sieve::studies::KeptRun& run);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override; ///< the notes are left
    void hideEvent(QHideEvent* event) override;

private:
    using Run = Shared<studies::KeptRun>;
    void prepareTable();
    QWidget* makeDetails();
    std::vector<Run> chosen() const;
    void showRuns();
    void showChosen();
    void showCurves();
    void showFigures();
    void rename();
    void remove();
    void keepNotes();
    void takeAgain(const Run& then, const studies::KeptRun& now);

    Desk& desk_;
    Asker asker_;
    Asker saver_;
    EmptyPage* empty_;
    QWidget* inside_;
    AnswerModel* model_;
    QTableView* table_;
    QLabel* told_;
    QLabel* cautions_;
    CurvePicture* picture_;
    AnswerModel* figuresModel_;
    QTableView* figuresTable_;
    AnswerModel* differsModel_;
    QTableView* differsTable_;
    QPlainTextEdit* notes_;
    std::vector<QPushButton*> ofOne_;
    QPushButton* remove_;
    std::vector<Run> runs_;           ///< as they are shown, the newest first
    std::vector<std::int64_t> shown_; ///< the numbers of those that are chosen
};

} // namespace sieve::app
