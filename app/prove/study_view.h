#pragma once

#include "app/desk/asker.h"
#include "core/base/result.h"
#include "core/library/trials.h"
#include "core/market/market.h"
#include "core/studies/cautions.h"
#include "core/studies/report.h"

#include <QWidget>
#include <functional>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

class QLabel;
class QVBoxLayout;

namespace sieve::app {

class Desk;
class EmptyPage;
class QuestionPanel;

/// What all studies have in common: the question on the left; on the right one sentence, what
/// weakens it, and all of the answer; before the first answer what will stand there. An answer
/// stays until another one comes, also while one is asked and when that is stopped; it goes with
/// its market, and says so where the as-of day is no longer its own. It can be kept, and saved as a
/// report or as tables; how many variants of its idea were asked is told beside it.
class StudyView : public QWidget {
    Q_OBJECT
public:
    /// Owns the panel. `key`: under which the split is remembered.
    StudyView(Desk& desk, QuestionPanel* panel, const char* key);

    virtual void refresh() = 0; ///< brings what can be chosen up to the desk
    virtual void ask() = 0;
    /// Puts a kept question into the fields. False: they cannot show all of it, and stay as they
    /// are.
    virtual bool setQuestion(const studies::KeptRun& run) = 0;
    void keep();
    void save();

protected:
    /// A part of the answer that is saved as a file of its own.
    struct Table {
        QString title;
        std::function<exports::Sheet()> sheet; ///< may be called beside the window
        bool isInReport = false;
    };

    virtual void takeExample() = 0; ///< the step of the empty page
    virtual void forget() = 0;      ///< the answer: its market is not open any more
    // Of the answer that is shown; asked only while there is one.
    virtual studies::KeptRun kept() const = 0;
    virtual std::vector<studies::ReportPicture> pictures() const = 0; ///< drawn OnPaper
    virtual std::vector<Table> tables() const = 0;
    /// What is told of an idea that was tried so often; `trials` has this one too.
    virtual std::vector<studies::Caution>
    cautionsOfTries(const std::vector<library::Trial>& trials) const;

    void setEmptyTexts(const QString& title, const QString& words, const QString& step);
    QVBoxLayout* inside() const { return insideLayout_; } ///< under the sentence and the cautions
    /// Something that the person must know of the question.
    void tell(const QString& what);
    /// The sentence of the answer, and what weakens it.
    void tellAnswer(const QString& sentence, const std::vector<studies::Caution>& cautions);
    /// Counts the answer among the variants of its idea, and tells of them. `sharpe`: the daily
    /// one.
    /// `unnamed`: the idea where the person says nothing, such as the screen's name.
    void noteTrial(const QString& unnamed, double sharpe = missing);

    /// Runs `work(const Progress&)`, which gives a Result<shared_ptr<const Answer>>, beside the
    /// window; then `take(answer)`, or the fault is told. Requires: an open market.
    template <class Work, class Take> void run(const QString& meanwhile, Work work, Take take)
    {
        begin(meanwhile);
        asker_.ask(std::move(work), [this, take = std::move(take), of = now()](const auto& answer) {
            if (end(answer ? std::nullopt : std::optional(answer.error()), of))
                take(*answer);
        });
    }

    Desk& desk_;
    QuestionPanel* panel_;

private:
    struct Known { ///< of which market, and as known on which day
        market::MarketPtr market;
        std::string data; ///< what tells the market's file from others
        Day day = Day::fromSerial(0);
    };
    Known now() const;
    void begin(const QString& meanwhile);
    bool end(const std::optional<LocatedError>& fault, const Known& of);
    void stop(const QString& why);
    void reset();
    void tellDay();
    void tellCautions();
    studies::KeptRun keptWhole() const;

    Asker asker_;
    Asker saver_;
    QLabel* told_;
    QWidget* deeds_; ///< what can be done with the answer
    QLabel* asOf_;
    QLabel* cautions_;
    EmptyPage* empty_;
    QWidget* inside_;
    QVBoxLayout* insideLayout_;
    Known known_;      ///< of the answer; without a market there is none
    QString sentence_; ///< of the answer
    std::vector<studies::Caution> ofAnswer_;
    std::vector<library::Trial> trials_; ///< of the answer's idea
};

QStringList reportKinds(); ///< of files, as a dialog offers them
bool isReport(const QString& path);

/// A file that is to be written, and which of the offered kinds was chosen.
struct ChosenFile {
    QString path; ///< with an ending
    int kind = 0;
};
/// Asks for it. Empty: the person thought better of it.
std::optional<ChosenFile> chooseFile(QWidget* parent, const QString& title, const QString& name,
                                     const QStringList& kinds);
/// Writes the report of an answer beside the window, and tells its end; `tables` is called there.
void saveReport(Asker& saver, Desk& desk, const QString& path, const studies::KeptRun& run,
                const std::vector<studies::ReportPicture>& pictures,
                const std::function<std::vector<studies::ReportTable>()>& tables);

inline constexpr int reportWidth = 600; ///< of pictures: as wide as a page's text
/// A widget as a picture for a report, in the colours that look() has now.
studies::ReportPicture pictureOf(const QString& title, QWidget& widget, const QSize& size);

} // namespace sieve::app
