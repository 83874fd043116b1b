#include "app/parts/actions.h"

#include <QAction>
#include <QCoreApplication>
#include <QWidget>
#include <algorithm>
#include <array>

namespace sieve::app {

namespace {

QString tr(const char* text)
{
    return QCoreApplication::translate("Actions", text);
}

#define T(text) QT_TRANSLATE_NOOP("Actions", text)

using Id = ActionId;

constexpr std::array rows{
    // File
    ActionRow{Id::OpenDataset, Within::Window, MenuId::File, T("&Open dataset…"), "Ctrl+O"},
    ActionRow{Id::TakeInPrices, Within::Window, MenuId::File, T("&Take in prices…"),
              "Ctrl+Shift+O"},
    ActionRow{Id::UpdateMarket, Within::Window, MenuId::File, T("&Update with new data…"),
              "Ctrl+U"},
    ActionRow{Id::TakeInAgain, Within::Window, MenuId::File, T("Take the dataset in &again")},
    ActionRow{.id = Id::ShowIntakeReport,
              .within = Within::Window,
              .menu = MenuId::File,
              .title = T("&Intake report…"),
              .keys = "Ctrl+I",
              .beginsGroup = true},
    ActionRow{.id = Id::BackUp,
              .within = Within::Window,
              .menu = MenuId::File,
              .title = T("&Back up the library now"),
              .beginsGroup = true},
    ActionRow{Id::SaveLibraryFolder, Within::Window, MenuId::File,
              T("Save the library as open te&xt…"), "",
              T("A folder of TOML, CSV and Markdown that holds all your work")},
    ActionRow{Id::RestoreBackup, Within::Window, MenuId::File, T("Restore a bac&kup…")},
    ActionRow{.id = Id::MailTerms,
              .within = Within::Window,
              .menu = MenuId::File,
              .title = T("What is told by &mail…"),
              .beginsGroup = true},
    ActionRow{.id = Id::Quit,
              .within = Within::Window,
              .menu = MenuId::File,
              .title = T("&Quit"),
              .keys = "Ctrl+Q",
              .beginsGroup = true},
    // Edit
    ActionRow{Id::Undo, Within::Window, MenuId::Edit, T("&Undo"), "Ctrl+Z"},
    ActionRow{Id::Redo, Within::Window, MenuId::Edit, T("&Redo"), "Ctrl+Shift+Z"},
    ActionRow{Id::ShowHistory, Within::Window, MenuId::Edit, T("&What you did…"), "",
              T("All steps that can be undone, those of former sessions too")},
    ActionRow{.id = Id::CopyTable,
              .within = Within::Table,
              .menu = MenuId::Edit,
              .title = T("&Copy the rows"),
              .keys = "Ctrl+C",
              .beginsGroup = true},
    ActionRow{Id::EmptyTray, Within::Window, MenuId::Edit, T("&Empty the tray")},
    // Go
    ActionRow{.id = Id::ShowPlace,
              .within = Within::Window,
              .menu = MenuId::Go,
              .title = T("Place %1"),
              .keys = "Alt+%1",
              .count = 6},
    ActionRow{.id = Id::SessionEarlier,
              .within = Within::Window,
              .menu = MenuId::Go,
              .title = T("One session earlier"),
              .keys = "[",
              .beginsGroup = true},
    ActionRow{Id::SessionLater, Within::Window, MenuId::Go, T("One session later"), "]"},
    ActionRow{Id::WeekEarlier, Within::Window, MenuId::Go, T("A week earlier"), "{"},
    ActionRow{Id::WeekLater, Within::Window, MenuId::Go, T("A week later"), "}"},
    ActionRow{Id::LatestSession, Within::Window, MenuId::Go, T("Latest session"), "Ctrl+]"},
    ActionRow{.id = Id::PlayDays,
              .within = Within::Window,
              .menu = MenuId::Go,
              .title = T("Play forward day by &day, or stop"),
              .keys = "F6",
              .tip = T("Go forward from a past day, everything as it was known then"),
              .beginsGroup = true},
    ActionRow{Id::PlaySlower, Within::Window, MenuId::Go, T("Play slower"), "F7"},
    ActionRow{Id::PlayFaster, Within::Window, MenuId::Go, T("Play faster"), "F8"},
    ActionRow{.id = Id::ShowAlerts,
              .within = Within::Window,
              .menu = MenuId::Go,
              .title = T("A&lerts…"),
              .keys = "Ctrl+L",
              .tip = T("What alerts told, and the alerts themselves"),
              .beginsGroup = true},
    ActionRow{Id::NewAlert, Within::Window, MenuId::Go, T("&New alert…"), "Ctrl+Shift+L"},
    ActionRow{.id = Id::FindAnything,
              .within = Within::Window,
              .menu = MenuId::Go,
              .title = T("&Find anything…"),
              .keys = "Ctrl+K",
              .tip = T("Stocks, lists, screens, places, commands and fields by a few letters"),
              .beginsGroup = true},
    // View
    ActionRow{Id::LightPalette, Within::Window, MenuId::View, T("&Paper, light")},
    ActionRow{Id::DarkPalette, Within::Window, MenuId::View, T("&Harbour, dark")},
    ActionRow{Id::FullScreen, Within::Window, MenuId::View, T("&Full screen"), "F11"},
    ActionRow{.id = Id::ZoomIn,
              .within = Within::Chart,
              .menu = MenuId::View,
              .title = T("Zoom into the chart"),
              .keys = "+; =",
              .beginsGroup = true},
    ActionRow{Id::ZoomOut, Within::Chart, MenuId::View, T("Zoom out of the chart"), "-"},
    ActionRow{Id::PanEarlier, Within::Chart, MenuId::View, T("Earlier bars of the chart"), "Left"},
    ActionRow{Id::PanLater, Within::Chart, MenuId::View, T("Later bars of the chart"), "Right"},
    ActionRow{Id::FitChart, Within::Chart, MenuId::View, T("All bars of the chart"), "Home"},
    ActionRow{.id = Id::DayBars,
              .within = Within::Chart,
              .menu = MenuId::View,
              .title = T("&Days as bars of the chart"),
              .keys = "Shift+D",
              .beginsGroup = true},
    ActionRow{Id::WeekBars, Within::Chart, MenuId::View, T("&Weeks as bars of the chart"),
              "Shift+W"},
    ActionRow{Id::MonthBars, Within::Chart, MenuId::View, T("&Months as bars of the chart"),
              "Shift+M"},
    ActionRow{Id::MinuteBars, Within::Chart, MenuId::View, T("M&inutes as bars of the chart"),
              "Shift+I"},
    ActionRow{Id::MinutesABar, Within::Chart, MenuId::View, T("Ho&w many minutes a bar…"),
              "Ctrl+Shift+I"},
    ActionRow{Id::LogarithmicScale, Within::Chart, MenuId::View,
              T("&Logarithmic scale of the chart"), "Shift+L"},
    ActionRow{Id::PercentScale, Within::Chart, MenuId::View, T("P&ercent scale of the chart"),
              "Shift+P"},
    ActionRow{Id::NextBarForm, Within::Chart, MenuId::View, T("Next form of the chart's &bars"),
              "Shift+F"},
    ActionRow{Id::ShowMarks, Within::Chart, MenuId::View, T("Ma&rks of events on the chart"),
              "Shift+E"},
    ActionRow{Id::ChooseMarks, Within::Chart, MenuId::View, T("Which events are marked…"),
              "Ctrl+Shift+E"},
    ActionRow{Id::NextMark, Within::Chart, MenuId::View, T("Next mark of the chart"), "."},
    ActionRow{Id::MarkBefore, Within::Chart, MenuId::View, T("Mark before on the chart"), ","},
    ActionRow{Id::TallerPane, Within::Chart, MenuId::View, T("Taller pane under the pointer"),
              "Ctrl+Down", T("Also by a drag of the edge between two panes")},
    ActionRow{Id::LowerPane, Within::Chart, MenuId::View, T("Lower pane under the pointer"),
              "Ctrl+Up"},
    ActionRow{Id::PaneUp, Within::Chart, MenuId::View, T("Move the pane up"), "Ctrl+Shift+Up"},
    ActionRow{Id::PaneDown, Within::Chart, MenuId::View, T("Move the pane down"),
              "Ctrl+Shift+Down"},
    ActionRow{Id::RemovePane, Within::Chart, MenuId::View, T("Remove the pane"), "Ctrl+Del"},
    ActionRow{Id::NextSetUp, Within::Chart, MenuId::View, T("Next &set-up of the chart"),
              "Shift+S"},
    ActionRow{Id::ChooseSetUp, Within::Chart, MenuId::View, T("Choose a set-up of the chart…"),
              "Ctrl+Shift+T"},
    ActionRow{Id::KeepSetUp, Within::Chart, MenuId::View, T("Keep this set-up of the chart…")},
    ActionRow{Id::Compare, Within::Chart, MenuId::View, T("&Compare the chart with…"), "Shift+C",
              T("A stock, an index, a group or a list, from one start")},
    ActionRow{Id::AddReadyLayer, Within::Chart, MenuId::View, T("Add a ready layer to the chart…"),
              "Shift+R"},
    ActionRow{Id::EditLayers, Within::Chart, MenuId::View, T("La&yers of the chart…"), "Shift+O",
              T("Add, change, move and remove what the chart shows")},
    ActionRow{Id::EditSetUp, Within::Chart, MenuId::View, T("What the chart sho&ws, as text…"),
              "Shift+T"},
    ActionRow{.id = Id::Draw,
              .within = Within::Chart,
              .menu = MenuId::View,
              .title = T("Dra&w on the chart…"),
              .keys = "D",
              .tip = T("Lines, levels, channels, retracements, notes and more"),
              .beginsGroup = true},
    ActionRow{Id::Measure, Within::Chart, MenuId::View, T("Measure on the chart"), "M"},
    ActionRow{Id::AlertAtPrice, Within::Chart, MenuId::View, T("Alert at this price…"), "A",
              T("At the price under the pointer, else at the close")},
    ActionRow{Id::NextDrawing, Within::Chart, MenuId::View, T("Next drawing"), "N"},
    ActionRow{Id::DrawingBefore, Within::Chart, MenuId::View, T("Drawing before"), "Shift+N"},
    ActionRow{Id::RemoveDrawing, Within::Chart, MenuId::View, T("Remove the chosen drawing"),
              "Del"},
    ActionRow{Id::CopyDrawing, Within::Chart, MenuId::View, T("Copy the chosen drawing"), "Ctrl+C"},
    ActionRow{Id::PasteDrawing, Within::Chart, MenuId::View, T("Paste a drawing"), "Ctrl+V"},
    ActionRow{Id::HideDrawings, Within::Chart, MenuId::View, T("Hide all drawings"), "Shift+H"},
    ActionRow{Id::ListDrawings, Within::Chart, MenuId::View, T("Drawings of the stock…"), "Shift+A",
              T("Names, looks, what is hidden or locked")},
    ActionRow{.id = Id::CopyFigures,
              .within = Within::Chart,
              .menu = MenuId::View,
              .title = T("Copy the figures of the chart"),
              .beginsGroup = true},
    ActionRow{Id::CopyPicture, Within::Chart, MenuId::View, T("Copy the picture of the chart")},
    ActionRow{Id::SavePicture, Within::Chart, MenuId::View, T("Save the picture of the chart…")},
    ActionRow{Id::PrintChart, Within::Chart, MenuId::View, T("&Print the chart…"), "Ctrl+P"},
    // Market
    ActionRow{Id::ShowGroups, Within::Market, MenuId::Market, T("&Groups"), "Ctrl+1"},
    ActionRow{Id::ShowMosaic, Within::Market, MenuId::Market, T("&Mosaic"), "Ctrl+2"},
    ActionRow{Id::ShowBreadth, Within::Market, MenuId::Market, T("&Breadth"), "Ctrl+3"},
    ActionRow{Id::ShowDivergences, Within::Market, MenuId::Market, T("&Divergences"), "Ctrl+4"},
    ActionRow{Id::ShowStances, Within::Market, MenuId::Market, T("Sta&nces"), "Ctrl+5"},
    ActionRow{Id::ShowOwnScreens, Within::Market, MenuId::Market, T("&Own screens"), "Ctrl+6"},
    ActionRow{Id::ShowBrief, Within::Market, MenuId::Market, T("Br&ief: what changed"), "Ctrl+B"},
    ActionRow{Id::PrintBrief, Within::Brief, MenuId::Market, T("Print the brief…"), "Ctrl+P"},
    ActionRow{Id::SaveBrief, Within::Brief, MenuId::Market, T("Save the brief…"), "Ctrl+S",
              T("As PDF, HTML or text")},
    ActionRow{.id = Id::EditShortRule,
              .within = Within::Market,
              .menu = MenuId::Market,
              .title = T("Edit the short rule…"),
              .beginsGroup = true},
    ActionRow{Id::EditMediumRule, Within::Market, MenuId::Market, T("Edit the medium rule…")},
    ActionRow{Id::EditLongRule, Within::Market, MenuId::Market, T("Edit the long rule…")},
    ActionRow{.id = Id::NewRule,
              .within = Within::Rules,
              .menu = MenuId::Market,
              .title = T("New rule of the stance…"),
              .beginsGroup = true},
    ActionRow{Id::EditRule, Within::Rules, MenuId::Market, T("Edit the chosen rule…")},
    ActionRow{Id::RemoveRule, Within::Rules, MenuId::Market, T("Remove the chosen rule")},
    ActionRow{Id::StandardRules, Within::Rules, MenuId::Market, T("Put the standard rules back")},
    ActionRow{.id = Id::SiftGroup,
              .within = Within::Groups,
              .menu = MenuId::Market,
              .title = T("&Sift the shares of the chosen group"),
              .beginsGroup = true},
    ActionRow{Id::TrayGroup, Within::Groups, MenuId::Market,
              T("&Take the shares of the chosen group into the tray")},
    ActionRow{Id::DrawGroup, Within::Groups, MenuId::Market,
              T("D&raw the line of the chosen group")},
    // Sift
    ActionRow{Id::ChooseScreen, Within::Sift, MenuId::Sift, T("&All screens, the ready ones too…"),
              "Ctrl+B"},
    ActionRow{Id::OwnFields, Within::Sift, MenuId::Sift, T("Own &fields…"), "Ctrl+E"},
    ActionRow{Id::NewScreen, Within::Sift, MenuId::Sift, T("&New screen, with nothing in it"),
              "Ctrl+Shift+N"},
    ActionRow{Id::SaveScreen, Within::Sift, MenuId::Sift, T("&Save the screen"), "Ctrl+S",
              T("Save the screen among yours; what it was before stays as a version")},
    ActionRow{Id::SaveScreenAs, Within::Sift, MenuId::Sift, T("Save the screen &as…"),
              "Ctrl+Shift+S"},
    ActionRow{Id::ScreenAsText, Within::Sift, MenuId::Sift, T("The screen as &text"), "Ctrl+T",
              T("The same criteria as text of the language")},
    ActionRow{.id = Id::NewCriterion,
              .within = Within::Sift,
              .menu = MenuId::Sift,
              .title = T("Add a &criterion"),
              .beginsGroup = true},
    ActionRow{Id::CommentCriterion, Within::Criterion, MenuId::Sift,
              T("Comment on the criterion…")},
    ActionRow{Id::MoveCriterionUp, Within::Criterion, MenuId::Sift, T("Move the criterion up"),
              "Alt+Up"},
    ActionRow{Id::MoveCriterionDown, Within::Criterion, MenuId::Sift, T("Move the criterion down"),
              "Alt+Down"},
    ActionRow{Id::TakeCriterionOut, Within::Criterion, MenuId::Sift, T("Take the criterion out"),
              "Alt+Del"},
    ActionRow{.id = Id::ShowTable,
              .within = Within::Sift,
              .menu = MenuId::Sift,
              .title = T("Table"),
              .keys = "Ctrl+1",
              .tip = T("What passes, a row each"),
              .beginsGroup = true},
    ActionRow{Id::ShowWall, Within::Sift, MenuId::Sift, T("Wall"), "Ctrl+2",
              T("The charts of what passes, many at once")},
    ActionRow{Id::SaveWallPage, Within::Wall, MenuId::View,
              T("Save this page of the wall as PDF…")},
    ActionRow{Id::SaveWallBooklet, Within::Wall, MenuId::View,
              T("Save all pages of the wall as PDF…")},
    ActionRow{Id::ShowScatter, Within::Sift, MenuId::Sift, T("Scatter"), "Ctrl+3",
              T("What passes by two figures, and a third")},
    ActionRow{Id::ShowResultGroups, Within::Sift, MenuId::Sift, T("Groups"), "Ctrl+4",
              T("What passes by sector, industry or exchange, against the universe")},
    ActionRow{Id::ShowNearMisses, Within::Sift, MenuId::Sift, T("Near misses"), "Alt+N"},
    ActionRow{Id::ShowWhy, Within::Sift, MenuId::Sift, T("Why a stock passes or not"), "Alt+W"},
    ActionRow{Id::ShowDays, Within::Sift, MenuId::Sift, T("Matches by day"), "Alt+D"},
    ActionRow{.id = Id::TakeInHand,
              .within = Within::Sift,
              .menu = MenuId::Sift,
              .title = T("Take the results in &hand"),
              .keys = "Ctrl+Return",
              .tip = T("Take these in hand and go through them in Weigh"),
              .beginsGroup = true},
    ActionRow{Id::ChooseColumns, Within::Sift, MenuId::Sift, T("Choose columns…")},
    ActionRow{Id::KeepColumns, Within::Sift, MenuId::Sift, T("Keep these columns as a set…")},
    ActionRow{Id::CopySymbols, Within::Sift, MenuId::Sift, T("Copy the symbols"), "Ctrl+Shift+C"},
    ActionRow{Id::CopyResults, Within::Sift, MenuId::Sift, T("Copy the table of all results")},
    ActionRow{Id::SaveWorkbook, Within::Sift, MenuId::Sift, T("Save the table as XLSX…")},
    ActionRow{Id::SaveCsv, Within::Sift, MenuId::Sift, T("Save the table as CSV…")},
    ActionRow{Id::SaveJson, Within::Sift, MenuId::Sift, T("Save the table as JSON…")},
    ActionRow{Id::SaveSymbols, Within::Sift, MenuId::Sift, T("Save the symbols as text…")},
    ActionRow{Id::SymbolsFromText, Within::Sift, MenuId::Sift, T("Symbols from a text…"),
              "Ctrl+Shift+V"},
    // Weigh
    ActionRow{Id::NextCandidate, Within::Weigh, MenuId::Weigh, T("Next candidate"), "Space"},
    ActionRow{Id::CandidateBefore, Within::Weigh, MenuId::Weigh, T("Candidate before"),
              "Shift+Space"},
    ActionRow{.id = Id::Keep,
              .within = Within::Weigh,
              .menu = MenuId::Weigh,
              .title = T("&Keep"),
              .keys = "K",
              .tip = T("Put it on the watchlist and go on"),
              .beginsGroup = true},
    ActionRow{Id::Drop, Within::Weigh, MenuId::Weigh, T("&Drop"), "X", T("Drop it and go on")},
    ActionRow{Id::Later, Within::Weigh, MenuId::Weigh, T("&Later"), "L",
              T("Set it aside; it comes again at the end")},
    ActionRow{Id::GiveReason, Within::Weigh, MenuId::Weigh, T("Give the &reason"), "R"},
    ActionRow{Id::ChooseReason, Within::Weigh, MenuId::Weigh, T("A reason of your &own list"), "W",
              T("A number gives it; the list is changed there, too")},
    ActionRow{Id::ShowSitting, Within::Weigh, MenuId::Weigh, T("&Summary of the sitting…"), "S",
              T("What was kept and dropped, and why")},
    ActionRow{.id = Id::NextPart,
              .within = Within::Weigh,
              .menu = MenuId::Weigh,
              .title = T("Next part of the dossier"),
              .keys = "J",
              .beginsGroup = true},
    ActionRow{Id::PartBefore, Within::Weigh, MenuId::Weigh, T("Part before"), "Shift+J"},
    ActionRow{Id::ReadDossier, Within::Weigh, MenuId::Weigh, T("Go through the dossier"), "F",
              T("Up and Down by row, Return tells where a figure comes from")},
    ActionRow{Id::ChoosePeers, Within::Weigh, MenuId::Weigh, T("Choose its &peers…"), "P"},
    ActionRow{Id::ShowOccurrences, Within::Weigh, MenuId::Weigh, T("&Earlier occurrences…"), "O",
              T("What followed when a condition began to hold: in this stock and in all")},
    ActionRow{Id::ShowMove, Within::Weigh, MenuId::Weigh, T("Why did it &move?"), "Y",
              T("The bar that the chart reads, beside its industry and what was said around it")},
    ActionRow{Id::ScatterPeers, Within::Weigh, MenuId::Weigh, T("Sca&tter of its peers…"), "T",
              T("Two figures of it and of its peers against each other")},
    ActionRow{Id::CompareStocks, Within::Weigh, MenuId::Weigh, T("&Compare with others…"), "C",
              T("The dossiers of two to four stocks side by side")},
    ActionRow{.id = Id::Judge,
              .within = Within::Weigh,
              .menu = MenuId::Weigh,
              .title = T("&Judge by the checklist…"),
              .keys = "V",
              .tip = T("Answer your questions and write the verdict in a sentence"),
              .beginsGroup = true},
    ActionRow{Id::ChooseChecklist, Within::Weigh, MenuId::Weigh, T("Your chec&klists…"), "Shift+V",
              T("Choose one, make one, change its questions and rules")},
    ActionRow{Id::PlanPurchase, Within::Weigh, MenuId::Weigh, T("Plan the p&urchase…"), "G",
              T("Entry, stop, targets and size; the levels are dragged on the chart")},
    ActionRow{.id = Id::Follow,
              .within = Within::Weigh,
              .menu = MenuId::Weigh,
              .title = T("&Follow it, or no longer"),
              .keys = "U",
              .tip = T("What is new about those followed is told together"),
              .beginsGroup = true},
    ActionRow{Id::ShowDigest, Within::Weigh, MenuId::Weigh, T("What is &new about those followed…"),
              "Shift+U", T("What was said since you looked last")},
    ActionRow{.id = Id::PrintStock,
              .within = Within::Weigh,
              .menu = MenuId::Weigh,
              .title = T("Page of this stock as PDF…"),
              .keys = "Ctrl+Shift+P",
              .tip = T("Chart, figures, value, results, plan and your words on one page"),
              .beginsGroup = true},
    ActionRow{Id::PrintBooklet, Within::Weigh, MenuId::Weigh, T("Booklet of a list as PDF…"), "",
              T("A page a stock, of those in hand or on a list")},
    ActionRow{.id = Id::KeepOnto,
              .within = Within::Weigh,
              .menu = MenuId::Weigh,
              .title = T("Keep onto list %1"),
              .keys = "%1",
              .count = 9,
              .beginsGroup = true},
    ActionRow{.id = Id::ShowTrayWall,
              .within = Within::Weigh,
              .menu = MenuId::Weigh,
              .title = T("&Wall of those in hand"),
              .keys = "Ctrl+2",
              .tip = T("The charts of the stocks in hand, many at once"),
              .beginsGroup = true},
    // Lists
    ActionRow{Id::ShowListWall, Within::Lists, MenuId::Lists, T("&Wall of the list"), "Ctrl+2",
              T("The charts of the list's stocks, many at once")},
    ActionRow{Id::ShowAgenda, Within::Lists, MenuId::Lists, T("&Calendar"), "Ctrl+3",
              T("Reports, dividends, ends of lock-ups and days of review of the stocks on your "
                "lists; out as iCalendar")},
    ActionRow{Id::ShowReview, Within::Lists, MenuId::Lists, T("&Review: what became of ideas"),
              "Ctrl+4",
              T("By source, reason, category, verdict, state of the market; with what "
                "following the plans would have given")},
    ActionRow{Id::NewList, Within::Lists, MenuId::Lists, T("&New list…"), "Ctrl+N"},
    ActionRow{Id::TradingTerms, Within::Lists, MenuId::Lists, T("&Account and limits of plans…"),
              "Ctrl+T",
              T("The account, what may be lost, when a price is near or has run too far, "
                "and which rule says to leave the market")},
    ActionRow{Id::ShowArchive, Within::Lists, MenuId::Lists, T("Show the archi&ve")},
    ActionRow{.id = Id::EditList,
              .within = Within::ListNames,
              .menu = MenuId::Lists,
              .title = T("Name, &folder and columns…"),
              .keys = "F2",
              .beginsGroup = true},
    ActionRow{Id::CombineLists, Within::ListNames, MenuId::Lists, T("Com&bine with others…"),
              "Ctrl+J", T("Join lists, take what they have in common, or one without another")},
    ActionRow{Id::CopyList, Within::ListNames, MenuId::Lists, T("&Copy the list"), "Ctrl+D",
              T("A list of your own with the same entries, also of one that a screen keeps")},
    ActionRow{Id::ListInHand, Within::ListNames, MenuId::Lists, T("Take all &in hand"),
              "Ctrl+Return", T("The stocks of the list become candidates in Weigh")},
    ActionRow{Id::SaveList, Within::ListNames, MenuId::Lists, T("&Save as a file…"), "Ctrl+S",
              T("All that is kept and told of its entries, as CSV, workbook or JSON, or their "
                "symbols alone")},
    ActionRow{Id::ReadList, Within::Lists, MenuId::Lists, T("Read a list from a &file…"), "Ctrl+R",
              T("CSV, workbook, JSON or text, with a report of its rows")},
    ActionRow{Id::PasteOnto, Within::ListNames, MenuId::Lists, T("Paste s&ymbols onto the list"),
              "Ctrl+V",
              T("The stocks that a copied text names for certain, or the rows of a copied table")},
    ActionRow{Id::ListUp, Within::ListNames, MenuId::Lists, T("List &up"), "Alt+Up"},
    ActionRow{Id::ListDown, Within::ListNames, MenuId::Lists, T("List &down"), "Alt+Down"},
    ActionRow{Id::ShowLeft, Within::ListNames, MenuId::Lists, T("&Who left the list…"), "L"},
    ActionRow{Id::ShowMoves, Within::ListNames, MenuId::Lists, T("Who came and who &went…"), "C",
              T("Day by day, and between any two days")},
    ActionRow{Id::ArchiveList, Within::ListNames, MenuId::Lists, T("&Archive the list"), "",
              T("Out of sight, with all that it holds; again brings it back")},
    ActionRow{Id::RemoveList, Within::ListNames, MenuId::Lists, T("Re&move the list"), "Del"},
    ActionRow{.id = Id::ReadEntry,
              .within = Within::Entries,
              .menu = MenuId::Lists,
              .title = T("&Weigh the stock"),
              .beginsGroup = true},
    ActionRow{Id::PlanEntry, Within::Entries, MenuId::Lists, T("&Plan…"), "G"},
    ActionRow{Id::BoughtEntry, Within::Entries, MenuId::Lists, T("&Bought…"), "B"},
    ActionRow{Id::SoldEntry, Within::Entries, MenuId::Lists, T("&Sold…"), "S"},
    ActionRow{Id::WriteNote, Within::Entries, MenuId::Lists, T("Write a &note"), "N"},
    ActionRow{Id::NextSign, Within::Entries, MenuId::Lists, T("Next si&gn"), "I"},
    ActionRow{Id::ChangeEntries, Within::Entries, MenuId::Lists, T("Change all &chosen…"), "E",
              T("Reason, category, tags, sign, day of review, a note: of all chosen entries")},
    ActionRow{Id::EntryUp, Within::Entries, MenuId::Lists, T("Entry &up"), "Alt+Up"},
    ActionRow{Id::EntryDown, Within::Entries, MenuId::Lists, T("Entry &down"), "Alt+Down"},
    ActionRow{Id::KeepOrder, Within::Entries, MenuId::Lists, T("Keep the &order that is shown"), "",
              T("The list takes the order by which its entries are sorted now")},
    ActionRow{.id = Id::CopyOnto,
              .within = Within::Entries,
              .menu = MenuId::Lists,
              .title = T("Copy onto list %1"),
              .keys = "%1",
              .count = 9,
              .beginsGroup = true},
    ActionRow{.id = Id::MoveOnto,
              .within = Within::Entries,
              .menu = MenuId::Lists,
              .title = T("Move onto list %1"),
              .keys = "Ctrl+Shift+%1",
              .count = 9},
    ActionRow{.id = Id::TakeOffList,
              .within = Within::Entries,
              .menu = MenuId::Lists,
              .title = T("&Take off the list"),
              .keys = "Del",
              .beginsGroup = true},
    // Prove
    ActionRow{Id::ShowFollowed, Within::Prove, MenuId::Prove, T("&What followed"), "Ctrl+1",
              T("How the matches of a screen or condition went on, beside all stocks")},
    ActionRow{Id::ShowStandings, Within::Prove, MenuId::Prove, T("&Standings of screens"), "Ctrl+2",
              T("How all screens would have done, bought on many days")},
    ActionRow{Id::ShowByRule, Within::Prove, MenuId::Prove, T("A &portfolio by rule"), "Ctrl+3",
              T("What a rule would have made, after costs, beside the benchmark")},
    ActionRow{Id::ShowKept, Within::Prove, MenuId::Prove, T("&Kept answers"), "Ctrl+4",
              T("Answers that were kept, beside each other, and asked again")},
    ActionRow{.id = Id::AskStudy,
              .within = Within::Prove,
              .menu = MenuId::Prove,
              .title = T("&Ask"),
              .keys = "Ctrl+Return",
              .beginsGroup = true},
    ActionRow{Id::KeepAnswer, Within::Prove, MenuId::Prove, T("&Keep the answer"), "Ctrl+D",
              T("With its question, data and seed, to be asked again and compared")},
    ActionRow{Id::SaveAnswer, Within::Prove, MenuId::Prove, T("Save as a &file…"), "Ctrl+S",
              T("A report as PDF or HTML, or the cases, trades and curves as a table")},
    // Help
    ActionRow{Id::ShowNotices, Within::Window, MenuId::Help, T("&Notices of this session…")},
    ActionRow{Id::ShowKeys, Within::Window, MenuId::Help, T("&Keys"), "F1"},
    ActionRow{Id::About, Within::Window, MenuId::Help, T("&About Wise Sieve")},
};

constexpr std::array notes{
    KeyNote{Within::Brief, "Tab, Return", T("to the next line that leads to its thing; go there")},
    KeyNote{Within::Brief, "Esc", T("back to the market")},
    KeyNote{Within::Criterion, "Up, Down", T("from criterion to criterion")},
    KeyNote{Within::Criterion, "Ctrl+Up, Ctrl+Down", T("the number under the cursor up or down")},
    KeyNote{Within::Weigh, "Up, Down", T("in the dossier: from row to row")},
    KeyNote{Within::Weigh, "Left, Right", T("in the dossier: from figure to figure of a row")},
    KeyNote{Within::Weigh, "Return",
            T("in the dossier: where a figure comes from; the peer; the day of an event")},
    KeyNote{Within::Weigh, "Shift+Return", T("in the dossier: the whole table, to copy or save")},
    KeyNote{Within::Wall, "K, X, L",
            T("keep, drop or set aside the stock under the pointer, else the chosen one")},
    KeyNote{Within::Wall, "Return", T("one chart large, and all again")},
    KeyNote{Within::Wall, "Page Up, Page Down", T("page before, next page")},
    KeyNote{Within::Chart, "D, then a letter", T("draw with the tool of that letter")},
    KeyNote{Within::Chart, "Arrows, Return", T("while drawing: move the point, set it")},
    KeyNote{Within::Chart, "Backspace, Esc", T("while drawing: take a point back, end")},
    KeyNote{Within::Chart, "Alt+Arrows", T("move the chosen drawing, with Shift farther")},
    KeyNote{Within::Chart, "Return", T("name and look of the chosen drawing")},
    KeyNote{Within::States, "Up, Down", T("from line to line")},
    KeyNote{Within::States, "Left, Right", T("from the short to the medium and long state")},
    KeyNote{Within::States, "Return", T("edit the rule")},
    KeyNote{Within::Mosaic, "Left, Right, Up, Down", T("from field to field")},
    KeyNote{Within::Mosaic, "Return", T("into the group, or choose the share")},
    KeyNote{Within::Mosaic, "Backspace, Esc", T("out of the group")},
    KeyNote{Within::Found, "Up, Down", T("from one that was found to the next")},
    KeyNote{Within::Found, "Return", T("take it")},
    KeyNote{Within::Found, "Esc", T("close")},
};

#undef T

QString numbered(const char* text, const ActionRow& row, int number)
{
    const QString translated = tr(text);
    return row.count > 1 ? translated.arg(number) : translated;
}

QString objectName(ActionId id, int number)
{
    return QStringLiteral("action %1 %2").arg(static_cast<int>(id)).arg(number);
}

} // namespace

std::span<const ActionRow> actionRows()
{
    return rows;
}

const ActionRow& rowOf(ActionId id)
{
    return *std::ranges::find(rows, id, &ActionRow::id);
}

QString titleOf(ActionId id, int number)
{
    return numbered(rowOf(id).title, rowOf(id), number);
}

QString plainTitleOf(ActionId id, int number)
{
    return titleOf(id, number).remove(QLatin1Char('&'));
}

QList<QKeySequence> keysOf(ActionId id, int number)
{
    const ActionRow& row = rowOf(id);
    const QString keys = QLatin1String(row.keys);
    if (keys.isEmpty())
        return {};
    return QKeySequence::listFromString(row.count > 1 ? keys.arg(number) : keys);
}

QString tipOf(ActionId id, int number)
{
    const ActionRow& row = rowOf(id);
    QString tip = *row.tip ? numbered(row.tip, row, number) : plainTitleOf(id, number);
    tip.remove(QStringLiteral("…"));
    const QList<QKeySequence> keys = keysOf(id, number);
    return keys.isEmpty()
               ? tip
               : QStringLiteral("%1 (%2)").arg(tip, keys[0].toString(QKeySequence::NativeText));
}

std::span<const KeyNote> keyNotes()
{
    return notes;
}

QString nameOf(Within within)
{
    switch (within) {
    case Within::Window:
        return tr("Everywhere");
    case Within::Market:
        return tr("Market");
    case Within::Sift:
        return tr("Sift");
    case Within::Weigh:
        return tr("Weigh");
    case Within::Lists:
        return tr("Lists");
    case Within::Prove:
        return tr("Prove");
    case Within::Criterion:
        return tr("A criterion of Sift");
    case Within::ListNames:
        return tr("The names of Lists");
    case Within::Entries:
        return tr("The stocks of a list");
    case Within::Chart:
        return tr("A chart");
    case Within::Wall:
        return tr("A wall of charts");
    case Within::Table:
        return tr("A table");
    case Within::States:
        return tr("The states of Market");
    case Within::Groups:
        return tr("The groups of Market");
    case Within::Rules:
        return tr("The rules of Market");
    case Within::Mosaic:
        return tr("The mosaic of Market");
    case Within::Brief:
        return tr("The brief of Market");
    case Within::Found:
        break;
    }
    return tr("A line that searches");
}

Within placeOf(Within within)
{
    switch (within) {
    case Within::Criterion:
        return Within::Sift;
    case Within::ListNames:
    case Within::Entries:
        return Within::Lists;
    case Within::States:
    case Within::Groups:
    case Within::Rules:
    case Within::Mosaic:
    case Within::Brief:
        return Within::Market;
    case Within::Chart:
    case Within::Wall:
    case Within::Table:
    case Within::Found:
        return Within::Window;
    default:
        return within;
    }
}

bool overlap(Within a, Within b)
{
    if (a == b || a == Within::Window || b == Within::Window)
        return true;
    const bool isPart = placeOf(a) != a;
    const bool isOtherPart = placeOf(b) != b;
    if (isPart && isOtherPart)
        return false; // two views beside each other
    const Within place = placeOf(a);
    const Within other = placeOf(b);
    return place == other || place == Within::Window || other == Within::Window;
}

void adoptAction(QWidget* holder, ActionId id, QAction* action, int number)
{
    action->setObjectName(objectName(id, number));
    action->setShortcuts(keysOf(id, number));
    action->setToolTip(tipOf(id, number));
    const Within within = rowOf(id).within;
    const QKeySequence key = action->shortcut();
    const bool isPlain =
        key.isEmpty() || !(key[0].keyboardModifiers() & (Qt::ControlModifier | Qt::AltModifier));
    if (placeOf(within) != within || (within != Within::Window && isPlain))
        action->setShortcutContext(Qt::WidgetWithChildrenShortcut);
    holder->addAction(action);
}

QAction* makeAction(QWidget* holder, ActionId id, std::function<void()> act, int number)
{
    auto* action = new QAction(titleOf(id, number), holder);
    QObject::connect(action, &QAction::triggered, holder, std::move(act));
    adoptAction(holder, id, action, number);
    return action;
}

QAction* findAction(const QWidget& root, ActionId id, int number)
{
    QAction* seen = nullptr;
    for (QAction* action : root.findChildren<QAction*>(objectName(id, number))) {
        const auto* holder = qobject_cast<QWidget*>(action->parent());
        if (!holder)
            continue;
        const QWidget* focus = root.focusWidget();
        if (focus && (focus == holder || holder->isAncestorOf(focus)))
            return action;
        if (!seen && (holder == &root || holder->isVisibleTo(&root)))
            seen = action;
    }
    return seen;
}

} // namespace sieve::app
