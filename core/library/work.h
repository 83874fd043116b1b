#pragma once

#include "core/base/shared.h"
#include "core/charts/set_up.h"
#include "core/conditions/market_book.h"
#include "core/drawings/drawing.h"
#include "core/language/own_fields.h"
#include "core/language/renaming.h"
#include "core/screens/column_sets.h"
#include "core/screens/screen.h"
#include "core/studies/kept_run.h"
#include "core/watchlists/alert.h"
#include "core/watchlists/checklist.h"
#include "core/watchlists/mail_terms.h"
#include "core/watchlists/trading_terms.h"
#include "core/watchlists/tray.h"
#include "core/watchlists/watchlist.h"
#include "core/watchlists/weighing.h"

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::library {

/// A screen that the person saved.
struct KeptScreen {
    std::int64_t id = 0; ///< of the library; stays when the name changes
    screens::Screen screen;

    friend bool operator==(const KeptScreen&, const KeptScreen&) = default;
};

/// All that the person makes and may undo, as a value. Copies share what they have in common.
struct Work {
    Shared<watchlists::Tray> tray;
    std::vector<Shared<watchlists::Watchlist>> lists; ///< in the person's order; no name twice
    Shared<screens::Screen> screen;                   ///< the one in hand in Sift
    std::vector<Shared<screens::Screen>> drafts;      ///< changed, not saved, not in hand; by name
    std::vector<Shared<KeptScreen>> screens;          ///< by name, no name twice
    Shared<language::OwnFields> fields = noFields();
    Shared<std::vector<screens::ColumnSet>> columnSets; ///< by name
    Shared<std::vector<charts::SetUp>> chartSetUps;     ///< by name
    Shared<watchlists::Weighing> weighing = watchlists::standardWeighing();
    Shared<std::vector<watchlists::Checklist>> checklists =
        std::vector{watchlists::standardChecklist()};          ///< by name
    Shared<std::vector<Shared<watchlists::Verdict>>> verdicts; ///< of all stocks, by id
    Shared<watchlists::TradingTerms> terms;
    Shared<watchlists::MailTerms> mail;
    Shared<std::vector<Shared<watchlists::Alert>>> alerts; ///< by id
    Shared<conditions::MarketBook> marketBook = conditions::standardBook();
    Shared<std::vector<Shared<drawings::Drawing>>> drawings; ///< of all stocks, by id
    Shared<std::vector<Shared<studies::KeptRun>>> runs;      ///< answers of studies, by id

    /// The list of that id; null when there is none.
    const watchlists::Watchlist* findList(std::int64_t id) const;
    watchlists::Watchlist* editList(std::int64_t id); ///< to be changed
    const KeptScreen* findScreen(std::string_view name) const;
    const drawings::Drawing* findDrawing(std::int64_t id) const;
    const studies::KeptRun* findRun(std::int64_t id) const;
    const watchlists::Alert* findAlert(std::int64_t id) const;
    const watchlists::Checklist* findChecklist(std::string_view name) const;

    friend bool operator==(const Work&, const Work&) = default;

private:
    static const Shared<language::OwnFields>& noFields();
};

/// The lists that stocks are put onto: kept by hand, not archived; in the person's order.
std::vector<Shared<watchlists::Watchlist>> listsByHand(const Work& work);

/// Saves a screen over one of its name, or as a new one with `newId`. A draft of that name is done
/// with.
void keepScreen(Work& work, const screens::Screen& screen, std::int64_t newId);
/// Puts a screen in the place of the saved one called `from`. Who asks for it by its name goes on
/// to find it. Requires: `from` is there, and the new name is free.
void renameScreen(Work& work, const std::string& from, const screens::Screen& renamed);
void removeScreen(Work& work, std::string_view name);

/// Keeps a drawing, in the place of the one of its id where there is one.
void keepDrawing(Work& work, const drawings::Drawing& drawing);
void removeDrawing(Work& work, std::int64_t id);

/// Keeps a checklist in the place of the one called `from`; empty: as a new one. Who asks for it by
/// its name goes on to find it. Requires: `from` is there, and a new name is free.
void keepChecklist(Work& work, const std::string& from, const watchlists::Checklist& checklist);
void removeChecklist(Work& work, std::string_view name);
/// Keeps a verdict, in the place of the one of its id where there is one.
void keepVerdict(Work& work, const watchlists::Verdict& verdict);

/// Keeps an alert, in the place of the one of its id where there is one.
void keepAlert(Work& work, const watchlists::Alert& alert);
void removeAlert(Work& work, std::int64_t id);

/// Keeps an answer of a study, in the place of the one of its id where there is one.
void keepRun(Work& work, const studies::KeptRun& run);
void removeRun(Work& work, std::int64_t id);

/// Keeps a set-up of a chart, in the place of the one of its name where there is one.
void keepSetUp(Work& work, const charts::SetUp& setUp);
void removeSetUp(Work& work, std::string_view name);

/// Takes another screen in hand. What is in hand stays as a draft, if it is neither saved nor one
/// of the program's; where there is a draft of the wanted one's name, that is taken.
void takeInHand(Work& work, const screens::Screen& wanted);

/// Gives an own field another name, wherever the person asked for it.
/// Errors: those of OwnFields::rename; nothing changed then.
std::optional<LocatedError> renameField(Work& work, const std::string& from, const std::string& to);

/// Lists that bear another name after a change than before it are found by that name wherever the
/// person asked for them.
void followRenamedLists(const Work& before, Work& after);

} // namespace sieve::library
