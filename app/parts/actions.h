#pragma once

#include <QList>
#include <QString>
#include <functional>
#include <span>

class QAction;
class QKeySequence;
class QWidget;

// Everything that a person can do by a command, once: its title, key and place. Menus, context
// menus, the finder, tool tips and the list of keys read this table. To add one: a name and a row
// here, and `makeAction` where it is done.

namespace sieve::app {

/// Where a key works, and under which head it is listed.
enum class Within {
    Window, ///< everywhere
    Market,
    Sift,
    Weigh,
    Lists,
    Prove,
    // Parts of places
    Criterion, ///< of Sift
    ListNames, ///< of Lists
    Entries,   ///< of Lists
    Chart,     ///< in any place
    Wall,      ///< in any place; of charts
    Table,     ///< in any place
    States,    ///< of Market; so are the next
    Groups,
    Rules,
    Mosaic,
    Brief,
    Found, ///< lines that search: the finder, the line of a new criterion
};

/// The menu of the window in which it stands.
enum class MenuId { File, Edit, Go, View, Market, Sift, Weigh, Lists, Prove, Help };

enum class ActionId {
    OpenDataset,
    TakeInPrices,
    UpdateMarket,
    TakeInAgain,
    ShowIntakeReport,
    BackUp,
    SaveLibraryFolder,
    RestoreBackup,
    MailTerms,
    Quit,
    Undo,
    Redo,
    ShowHistory,
    EmptyTray,
    CopyTable,
    ShowAlerts,
    NewAlert,
    ShowPlace, ///< numbered
    SessionEarlier,
    SessionLater,
    WeekEarlier,
    WeekLater,
    LatestSession,
    PlayDays,
    PlaySlower,
    PlayFaster,
    FindAnything,
    LightPalette,
    DarkPalette,
    FullScreen,
    ZoomIn,
    ZoomOut,
    PanEarlier,
    PanLater,
    FitChart,
    DayBars,
    WeekBars,
    MonthBars,
    MinuteBars,
    MinutesABar,
    LogarithmicScale,
    PercentScale,
    NextBarForm,
    ShowMarks,
    ChooseMarks,
    NextMark,
    MarkBefore,
    TallerPane,
    LowerPane,
    PaneUp,
    PaneDown,
    RemovePane,
    NextSetUp,
    ChooseSetUp,
    KeepSetUp,
    Compare,
    AddReadyLayer,
    EditLayers,
    EditSetUp,
    Draw,
    Measure,
    AlertAtPrice,
    NextDrawing,
    DrawingBefore,
    RemoveDrawing,
    CopyDrawing,
    PasteDrawing,
    HideDrawings,
    ListDrawings,
    CopyFigures,
    CopyPicture,
    SavePicture,
    PrintChart,
    ShowGroups,
    ShowMosaic,
    ShowBreadth,
    ShowDivergences,
    ShowStances,
    ShowOwnScreens,
    ShowBrief,
    PrintBrief,
    SaveBrief,
    EditShortRule,
    EditMediumRule,
    EditLongRule,
    NewRule,
    EditRule,
    RemoveRule,
    StandardRules,
    SiftGroup,
    TrayGroup,
    DrawGroup,
    ChooseScreen,
    NewScreen,
    SaveScreen,
    SaveScreenAs,
    OwnFields,
    ScreenAsText,
    NewCriterion,
    MoveCriterionUp,
    MoveCriterionDown,
    TakeCriterionOut,
    CommentCriterion,
    TakeInHand,
    ShowTable,
    ShowWall,
    ShowTrayWall,
    ShowListWall,
    ShowAgenda,
    ShowReview,
    SaveWallPage,
    SaveWallBooklet,
    ShowScatter,
    ShowResultGroups,
    ShowNearMisses,
    ShowWhy,
    ShowDays,
    ChooseColumns,
    KeepColumns,
    CopySymbols,
    CopyResults,
    SaveWorkbook,
    SaveCsv,
    SaveJson,
    SaveSymbols,
    SymbolsFromText,
    NextCandidate,
    CandidateBefore,
    Keep,
    Drop,
    Later,
    GiveReason,
    ChooseReason,
    ShowSitting,
    ChoosePeers,
    NextPart,
    PartBefore,
    ReadDossier,
    ShowOccurrences,
    ShowMove,
    Judge,
    ChooseChecklist,
    PlanPurchase,
    Follow,
    ShowDigest,
    CompareStocks,
    PrintStock,
    PrintBooklet,
    ScatterPeers,
    KeepOnto, ///< numbered
    NewList,
    EditList,
    CombineLists,
    CopyList,
    ArchiveList,
    ShowArchive,
    RemoveList,
    ListUp,
    ListDown,
    ListInHand,
    SaveList,
    ReadList,
    PasteOnto,
    ShowLeft,
    ShowMoves,
    TradingTerms,
    TakeOffList,
    ChangeEntries,
    PlanEntry,
    BoughtEntry,
    SoldEntry,
    WriteNote,
    NextSign,
    ReadEntry,
    EntryUp,
    EntryDown,
    KeepOrder,
    CopyOnto, ///< numbered
    MoveOnto, ///< numbered
    ShowFollowed,
    ShowStandings,
    ShowByRule,
    ShowKept,
    AskStudy,
    KeepAnswer,
    SaveAnswer,
    ShowNotices,
    ShowKeys,
    About,
};

struct ActionRow {
    ActionId id;
    Within within;
    MenuId menu;
    const char* title;        ///< translated in the context "Actions"; %1 is the number
    const char* keys = "";    ///< portable, several parted by "; "; %1 is the number
    const char* tip = "";     ///< what the title does not say
    int count = 1;            ///< of a numbered one, from 1
    bool beginsGroup = false; ///< a line stands above it in the menu
};

std::span<const ActionRow> actionRows(); ///< in the order of menus and lists of keys
const ActionRow& rowOf(ActionId id);
QString titleOf(ActionId id, int number = 1); ///< with the mark of its letter in menus
QString plainTitleOf(ActionId id, int number = 1);
QList<QKeySequence> keysOf(ActionId id, int number = 1);
QString tipOf(ActionId id, int number = 1); ///< with its key: "Save the screen (Ctrl+S)"

/// A key of a view that moves about in it: listed, but no command.
struct KeyNote {
    Within within;
    const char* keys; ///< as shown
    const char* what; ///< translated in the context "Actions"
};
std::span<const KeyNote> keyNotes();

QString nameOf(Within within);
/// The place of which it is a part; Window for what stands in any place.
Within placeOf(Within within);
/// Whether keys of the two can be meant at the same time: one lies within the other.
bool overlap(Within a, Within b);

/// An action of the table that does `act`. Its key works while `holder` or a child of it has the
/// focus; one of the window's everywhere, one of a place that has Ctrl or Alt while the place is
/// seen.
/// Owner: `holder`.
QAction* makeAction(QWidget* holder, ActionId id, std::function<void()> act, int number = 1);
/// The same for an action that exists (undo's tells by itself what it undoes).
void adoptAction(QWidget* holder, ActionId id, QAction* action, int number = 1);
/// The one among those under `root` that is meant: of the part that last had the focus, failing
/// that of the first that can be seen. Null when there is none.
QAction* findAction(const QWidget& root, ActionId id, int number = 1);

} // namespace sieve::app
