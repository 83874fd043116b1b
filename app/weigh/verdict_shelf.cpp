#include "app/weigh/verdict_shelf.h"

#include "app/desk/desk.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "app/weigh/checklists_dialog.h"
#include "app/weigh/verdict_dialog.h"

#include <algorithm>

namespace sieve::app {

using watchlists::Checklist;
using watchlists::Said;
using watchlists::Verdict;

namespace {

constexpr const char* checklistKey = "weigh.checklist";

}

VerdictShelf::VerdictShelf(Desk& desk, QWidget* window)
    : QObject(window), desk_(desk), window_(window)
{
    connect(&desk.work(), &Workbench::checklistsChanged, this, &VerdictShelf::checklistChanged);
    connect(&desk.settings(), &Settings::loaded, this, &VerdictShelf::checklistChanged);
}

std::optional<Checklist> VerdictShelf::checklist() const
{
    const Work& work = desk_.work().now();
    if (const auto* chosen = work.findChecklist(desk_.settings().value(checklistKey)))
        return *chosen;
    return work.checklists->empty() ? std::nullopt : std::optional(work.checklists->front());
}

void VerdictShelf::choose(const QString& name)
{
    desk_.settings().set(checklistKey, utf8(name));
    Q_EMIT checklistChanged();
}

void VerdictShelf::setDossier(std::shared_ptr<const dossier::Dossier> dossier,
                              market::MarketPtr market)
{
    dossier_ = std::move(dossier);
    market_ = std::move(market);
    if (dialog_ && dossier_)
        dialog_->setStock(*dossier_, *market_, verdictNow());
    else if (dialog_)
        dialog_->close();
}

/// Of the stock and day that are shown, by the checklist that is shown: what its rules say, and
/// what the person answered, also what the dossier does not tell of yet.
Verdict VerdictShelf::verdictNow() const
{
    const dossier::Part& part = *dossier_->part("verdict");
    const std::string name = part.tables.empty() ? std::string() : part.tables[0].title;
    Verdict verdict{0, dossier_->symbol, dossier_->day, name, dossier::saidIn(*dossier_), {}};
    const Verdict* kept =
        verdictOf(*desk_.work().now().verdicts, *market_, dossier_->stock, name, dossier_->day);
    if (!kept)
        return verdict;
    verdict.id = kept->id;
    verdict.words = kept->words;
    for (Said& said : verdict.said)
        if (const auto former = std::ranges::find(kept->said, said.words, &Said::words);
            said.isByPerson && former != kept->said.end() && former->isByPerson)
            said.isYes = former->isYes;
    return verdict;
}

void VerdictShelf::keep(const QString& what, const Verdict& verdict)
{
    desk_.work().edit(what.arg(text(verdict.symbol)), [&](Work& work) {
        Verdict kept = verdict;
        if (kept.id == 0)
            kept.id = desk_.work().newId();
        keepVerdict(work, kept);
    });
}

void VerdictShelf::answerNext(const QString& question)
{
    if (!dossier_)
        return;
    const std::vector<Said> said = verdictNow().said;
    const auto found = std::ranges::find(said, utf8(question), &Said::words);
    if (found == said.end())
        return;
    answer(question, !found->isYes   ? std::optional(true)
                     : *found->isYes ? std::optional(false)
                                     : std::nullopt);
}

void VerdictShelf::answer(const QString& question, std::optional<bool> isYes)
{
    if (!dossier_)
        return;
    Verdict verdict = verdictNow();
    const auto found = std::ranges::find(verdict.said, utf8(question), &Said::words);
    if (found == verdict.said.end() || !found->isByPerson)
        return;
    found->isYes = isYes;
    keep(tr("Answer a question on %1"), verdict);
}

void VerdictShelf::say(const QString& words)
{
    if (!dossier_)
        return;
    Verdict verdict = verdictNow();
    if (verdict.words == utf8(words))
        return;
    verdict.words = utf8(words);
    keep(tr("Write the verdict on %1"), verdict);
}

void VerdictShelf::recordIn(library::Work& work, std::size_t stock, Day day) const
{
    if (!dossier_ || dossier_->stock != stock || dossier_->day != day || !checklist())
        return;
    Verdict verdict = verdictNow();
    if (verdict.said.empty())
        return;
    if (verdict.id == 0)
        verdict.id = desk_.work().newId();
    keepVerdict(work, verdict);
}

void VerdictShelf::openVerdict()
{
    if (!dossier_)
        return;
    if (!checklist())
        return openChecklists();
    dialog_ = new VerdictDialog(window_);
    dialog_->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog_, &VerdictDialog::answered, this, &VerdictShelf::answer);
    connect(dialog_, &VerdictDialog::said, this, &VerdictShelf::say);
    connect(dialog_, &VerdictDialog::checklistsAsked, this, &VerdictShelf::openChecklists);
    dialog_->setStock(*dossier_, *market_, verdictNow());
    dialog_->show();
}

void VerdictShelf::openChecklists()
{
    const auto chosen = checklist();
    auto* dialog = new ChecklistsDialog(desk_, chosen ? text(chosen->name) : QString(), window_);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &ChecklistsDialog::chosen, this, &VerdictShelf::choose);
    dialog->open();
}

} // namespace sieve::app
