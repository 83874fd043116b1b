#pragma once

#include "app/desk/asker.h"
#include "core/dossier/dossier.h"

#include <QObject>
#include <QPointer>
#include <memory>
#include <optional>

namespace sieve::library {
struct Work;
}

namespace sieve::app {

class Desk;
class VerdictDialog;

/// The checklist that stocks are judged by, and what the person said of them: read from the
/// person's work, and kept there.
class VerdictShelf : public QObject {
    Q_OBJECT
public:
    VerdictShelf(Desk& desk, QWidget* window);

    /// The chosen one, else the first; empty: there is none.
    std::optional<watchlists::Checklist> checklist() const;
    /// The dossier that is shown, whose checklist is judged by; null: none.
    void setDossier(std::shared_ptr<const dossier::Dossier> dossier, market::MarketPtr market);

    /// Goes on to the next answer to one of the person's questions: yes, no, none.
    void answerNext(const QString& question);
    void answer(const QString& question, std::optional<bool> isYes);
    void say(const QString& verdict); ///< in a sentence
    /// Adds the verdict as it stands to an edit, such as of keeping the stock.
    void recordIn(library::Work& work, std::size_t stock, Day day) const;

    void openVerdict();    ///< a dialog of questions and the sentence
    void openChecklists(); ///< to choose, make and change them

Q_SIGNALS:
    void checklistChanged(); ///< another one is chosen, or its questions are others

private:
    watchlists::Verdict verdictNow() const;
    void keep(const QString& what, const watchlists::Verdict& verdict);
    void choose(const QString& name);

    Desk& desk_;
    QWidget* window_;
    std::shared_ptr<const dossier::Dossier> dossier_;
    market::MarketPtr market_;
    QPointer<VerdictDialog> dialog_;
};

} // namespace sieve::app
