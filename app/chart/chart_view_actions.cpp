#include "app/chart/chart_view.h"

#include "app/chart/drawing_pen.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <algorithm>
#include <utility>

// The commands of a chart.

namespace sieve::app {

using charts::BarScale;
using charts::SetUp;
using charts::ValueScale;
using charts::Viewport;

void ChartView::setScale(BarScale scale)
{
    if (setUp_.scale != scale)
        change([scale](SetUp& setUp) { setUp.scale = scale; }, true);
    tick(); // the one that is on stays on
}

void ChartView::toggleValues(ValueScale scale)
{
    change([scale](
               SetUp& setUp) { setUp.values = setUp.values == scale ? ValueScale::Linear : scale; },
           false);
}

std::size_t ChartView::paneMeant() const
{
    const std::size_t last = setUp_.panes.size() - 1;
    return std::min(pointer_ ? picture_.paneAt(pointer_->y()).value_or(0) : 0, last);
}

/// Gives a pane so many pixels of the next one's (the last: of the one before).
void ChartView::makeTaller(std::size_t pane, double pixels)
{
    if (setUp_.panes.size() < 2 || picture_.panes().size() != setUp_.panes.size())
        return;
    const std::size_t other = pane + 1 < setUp_.panes.size() ? pane + 1 : pane - 1;
    const double own = picture_.panes()[pane].plot.height();
    const double both = own + picture_.panes()[other].plot.height();
    constexpr double least = 24.0;
    if (both < 2.0 * least)
        return;
    double& height = setUp_.panes[pane].height;
    const double shares = height + setUp_.panes[other].height;
    height = shares * std::clamp(own + pixels, least, both - least) / both;
    setUp_.panes[other].height = shares - height;
    lookAgain();
}

/// The prices stay where they are.
void ChartView::movePane(int by)
{
    const std::size_t pane = paneMeant();
    const std::size_t to = pane + static_cast<std::size_t>(by);
    if (pane > 0 && to > 0 && to < setUp_.panes.size())
        change([&](SetUp& setUp) { std::swap(setUp.panes[pane], setUp.panes[to]); }, true);
}

void ChartView::removePane()
{
    if (const std::size_t pane = paneMeant(); pane > 0)
        change(
            [&](SetUp& setUp) {
                setUp.panes.erase(setUp.panes.begin() + static_cast<std::ptrdiff_t>(pane));
            },
            true);
}

void ChartView::addActions()
{
    setContextMenuPolicy(Qt::ActionsContextMenu);
    const auto newest = [this] { return viewport_.to(); };
    makeAction(this, ActionId::ZoomIn,
               [this, newest] { move([&](Viewport& view) { view.zoom(0.8, newest()); }); });
    makeAction(this, ActionId::ZoomOut,
               [this, newest] { move([&](Viewport& view) { view.zoom(1.25, newest()); }); });
    makeAction(this, ActionId::PanEarlier,
               [this] { move([](Viewport& view) { view.pan(-view.width() / 10.0); }); });
    makeAction(this, ActionId::PanLater,
               [this] { move([](Viewport& view) { view.pan(view.width() / 10.0); }); });
    makeAction(this, ActionId::FitChart, [this] { move([](Viewport& view) { view.fit(); }); });
    const auto checkable = [this](ActionId id, std::function<void()> done,
                                  std::function<bool()> isOn) {
        QAction* action = makeAction(this, id, std::move(done));
        action->setCheckable(true);
        checked_.emplace_back(action, std::move(isOn));
    };
    for (const auto& [id, scale] : {std::pair(ActionId::DayBars, BarScale::Day),
                                    std::pair(ActionId::WeekBars, BarScale::Week),
                                    std::pair(ActionId::MonthBars, BarScale::Month),
                                    std::pair(ActionId::MinuteBars, BarScale::Minutes)})
        checkable(
            id, [this, scale = scale] { setScale(scale); },
            [this, scale = scale] { return setUp_.scale == scale; });
    makeAction(this, ActionId::MinutesABar, [this] { askMinutes(); });
    for (const auto& [id, scale] : {std::pair(ActionId::LogarithmicScale, ValueScale::Logarithmic),
                                    std::pair(ActionId::PercentScale, ValueScale::Percent)})
        checkable(
            id, [this, scale = scale] { toggleValues(scale); },
            [this, scale = scale] { return setUp_.values == scale; });
    makeAction(this, ActionId::NextMark, [this] { stepToMark(1); });
    makeAction(this, ActionId::MarkBefore, [this] { stepToMark(-1); });
    checkable(
        ActionId::ShowMarks,
        [this] {
            change(
                [](SetUp& setUp) {
                    setUp.marks =
                        setUp.marks.empty() ? SetUp().marks : std::vector<charts::MarkKind>();
                },
                true);
        },
        [this] { return !setUp_.marks.empty(); });
    makeAction(this, ActionId::ChooseMarks, [this] { offerMarks(); });
    makeAction(this, ActionId::NextBarForm, [this] {
        change(
            [](SetUp& setUp) {
                setUp.form = static_cast<charts::BarForm>((static_cast<int>(setUp.form) + 1) % 4);
            },
            false);
    });
    constexpr double step = 16.0; // pixels
    const auto resize = [this](double pixels) {
        makeTaller(paneMeant(), pixels);
        Q_EMIT setUpChanged(false);
    };
    makeAction(this, ActionId::TallerPane, [resize] { resize(step); });
    makeAction(this, ActionId::LowerPane, [resize] { resize(-step); });
    makeAction(this, ActionId::PaneUp, [this] { movePane(-1); });
    makeAction(this, ActionId::PaneDown, [this] { movePane(1); });
    makeAction(this, ActionId::RemovePane, [this] { removePane(); });
    makeAction(this, ActionId::AddReadyLayer, [this] { addReadyLayer(); });
    makeAction(this, ActionId::EditLayers, [this] { editLayers(); });
    makeAction(this, ActionId::EditSetUp, [this] { editSetUp(); });
    makeAction(this, ActionId::NextSetUp, [this] {
        const std::vector<SetUp> all = setUpsOffered();
        const auto own = std::ranges::find(all, setUp_.name, &SetUp::name);
        const std::size_t next =
            own == all.end() ? 0 : static_cast<std::size_t>(own - all.begin() + 1) % all.size();
        change([&](SetUp& setUp) { setUp = all[next]; }, true);
    });
    makeAction(this, ActionId::ChooseSetUp, [this] { offerSetUps(); });
    makeAction(this, ActionId::KeepSetUp, [this] { keepSetUp(); });
    makeAction(this, ActionId::CopyFigures,
               [this] { QApplication::clipboard()->setText(figuresText()); });
    makeAction(this, ActionId::CopyPicture,
               [this] { QApplication::clipboard()->setPixmap(picture()); });
    makeAction(this, ActionId::SavePicture, [this] { askForFile(); });
    makeAction(this, ActionId::PrintChart, [this] { print(); });
    tick();
}

void ChartView::allowComparing()
{
    makeAction(this, ActionId::Compare, [this] { Q_EMIT compareWanted(); });
}

void ChartView::takeSetUp(const SetUp& setUp)
{
    change([&](SetUp& own) { own = setUp; }, true);
}

void ChartView::keepContent()
{
    for (const ActionId id :
         {ActionId::AddReadyLayer, ActionId::EditLayers, ActionId::EditSetUp, ActionId::NextSetUp,
          ActionId::ShowMarks, ActionId::ChooseMarks, ActionId::PaneUp, ActionId::PaneDown,
          ActionId::RemovePane, ActionId::MinuteBars, ActionId::MinutesABar})
        if (QAction* action = findAction(*this, id)) {
            removeAction(action);
            delete action;
        }
    std::erase_if(checked_, [this](const auto& each) { return !actions().contains(each.first); });
}

/// Under the pointer where it is among the prices, else the close that is read.
double ChartView::priceMeant() const
{
    const auto pane = pointer_ ? picture_.paneAt(pointer_->y()) : std::nullopt;
    if (pane && *pane == 0)
        return picture_.valueAt(*pane, pointer_->y());
    return chart().size() == 0 ? missing : chart().bars->close[barRead()];
}

void ChartView::allowDrawing()
{
    isDrawable_ = true;
    makeAction(this, ActionId::Draw, [this] { offerTools(); });
    makeAction(this, ActionId::Measure, [this] { pen_->beginMeasuring(); });
    makeAction(this, ActionId::AlertAtPrice, [this] { Q_EMIT alertWanted(priceMeant()); });
    makeAction(this, ActionId::NextDrawing, [this] { pen_->chooseNext(1); });
    makeAction(this, ActionId::DrawingBefore, [this] { pen_->chooseNext(-1); });
    makeAction(this, ActionId::RemoveDrawing, [this] { pen_->removeChosen(); });
    makeAction(this, ActionId::CopyDrawing, [this] { pen_->copyChosen(); });
    makeAction(this, ActionId::PasteDrawing, [this] { pen_->paste(); });
    QAction* hide = makeAction(this, ActionId::HideDrawings,
                               [this] { pen_->setAllHidden(!pen_->areAllHidden()); });
    hide->setCheckable(true);
    connect(pen_, &DrawingPen::stillChanged, hide,
            [this, hide] { hide->setChecked(pen_->areAllHidden()); });
    makeAction(this, ActionId::ListDrawings, [this] { Q_EMIT pen_->opened(); });
}

void ChartView::tick()
{
    for (const auto& [action, isOn] : checked_)
        action->setChecked(isOn());
}

void ChartView::stepToMark(int by)
{
    const std::vector<charts::Mark>& marks = chart().marks;
    if (marks.empty())
        return;
    // From the bar that is told, over all of its marks; they stand by bar.
    const std::size_t from = told_.empty() ? marks.size() : marks[told_.front()].bar;
    auto next = told_.empty() ? (by > 0 ? marks.begin() : marks.end())
                : by > 0      ? std::ranges::upper_bound(marks, from, {}, &charts::Mark::bar)
                              : std::ranges::lower_bound(marks, from, {}, &charts::Mark::bar);
    if (next == (by > 0 ? marks.end() : marks.begin()))
        return; // there is no other
    tellBar(by > 0 ? next->bar : std::prev(next)->bar);
}

/// Reads a bar, with the card of its marks, and brings it into sight.
void ChartView::tellBar(std::size_t bar)
{
    const std::vector<charts::Mark>& marks = chart().marks;
    told_.clear();
    for (std::size_t i = 0; i < marks.size(); ++i)
        if (marks[i].bar == bar)
            told_.push_back(i);
    pointedBar_ = static_cast<int>(bar);
    const double at = static_cast<double>(bar);
    if (at < viewport_.from() + 1.0 || at > viewport_.to() - 1.0)
        viewport_.pan(at - (viewport_.from() + viewport_.to()) / 2.0);
    lookAgain();
    Q_EMIT pointed(pointedBar_);
}

void ChartView::showDay(Day day)
{
    const auto& days = chart().bars->days;
    const auto bar = static_cast<std::size_t>(std::ranges::lower_bound(days, day) - days.begin());
    if (bar < days.size())
        tellBar(bar);
}

} // namespace sieve::app
