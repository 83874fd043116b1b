#include "app/chart/chart_view.h"

#include "app/chart/drawing_pen.h"
#include "app/chart/layers_dialog.h"
#include "app/chart/picture_file.h"
#include "app/chart/ready_layers_dialog.h"
#include "app/chart/set_up_dialog.h"
#include "app/chart/tool_icon.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/beside.h"
#include "app/parts/number_text.h"

#include <QInputDialog>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <algorithm>
#include <utility>

// What a chart asks the person, in menus and dialogs.

namespace sieve::app {

using charts::BarScale;
using charts::SetUp;
using charts::ValueScale;

namespace {

/// Letters choose a tool and are no commands of the place meanwhile.
class ToolMenu : public QMenu {
public:
    using QMenu::QMenu;

protected:
    bool event(QEvent* event) override
    {
        if (event->type() != QEvent::ShortcutOverride)
            return QMenu::event(event);
        event->accept();
        return true;
    }
};

/// A choice leaves it open for the next one.
class StayingMenu : public ToolMenu {
public:
    using ToolMenu::ToolMenu;

protected:
    void mouseReleaseEvent(QMouseEvent* event) override
    {
        if (QAction* action = actionAt(event->position().toPoint()))
            return action->trigger();
        ToolMenu::mouseReleaseEvent(event);
    }
    void keyPressEvent(QKeyEvent* event) override
    {
        const bool isChoice = event->key() == Qt::Key_Space || event->key() == Qt::Key_Return;
        if (isChoice && activeAction())
            return activeAction()->trigger();
        ToolMenu::keyPressEvent(event);
    }
};

} // namespace

void ChartView::askMinutes()
{
    auto* dialog = new QInputDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setWindowTitle(tr("Minutes a bar"));
    dialog->setLabelText(tr("A bar of how many minutes, 1 to %1?").arg(charts::mostMinutes));
    dialog->setInputMode(QInputDialog::IntInput);
    dialog->setIntRange(1, charts::mostMinutes);
    dialog->setIntValue(setUp_.minutes);
    connect(dialog, &QInputDialog::intValueSelected, this, [this](int minutes) {
        change(
            [minutes](SetUp& setUp) {
                setUp.scale = BarScale::Minutes;
                setUp.minutes = minutes;
            },
            true);
    });
    dialog->open();
}

/// The tools, each by its letter.
void ChartView::offerTools()
{
    if (!picture_.hasBars())
        return;
    auto* menu = new ToolMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setAccessibleName(tr("Tools to draw with"));
    for (const drawings::ToolRow& row : drawings::toolRows()) {
        QString title = text(row.title);
        title.insert(title.indexOf(QLatin1Char(row.letter), 0, Qt::CaseInsensitive),
                     QLatin1Char('&'));
        menu->addAction(toolIcon(row.tool, look()), title, this, [this, tool = row.tool] {
            pen_->begin(tool, setUp_.values == ValueScale::Logarithmic);
            setFocus();
        });
    }
    menu->popup(mapToGlobal(picture_.plots().topLeft().toPoint() + QPoint(8, 8)));
}

/// The kinds of marks, each to be switched by itself; the menu stays open meanwhile.
void ChartView::offerMarks()
{
    const std::pair<charts::MarkKind, QString> kinds[] = {
        {charts::MarkKind::Report, tr("Reports")},
        {charts::MarkKind::Dividend, tr("Dividends and spin-offs")},
        {charts::MarkKind::Split, tr("Splits")},
        {charts::MarkKind::News, tr("News")},
        {charts::MarkKind::Rating, tr("Opinions of research houses")},
        {charts::MarkKind::Entry, tr("Entries of own lists")},
        {charts::MarkKind::Gap, tr("Gaps")},
        {charts::MarkKind::Island, tr("Islands")},
        {charts::MarkKind::Inside, tr("Inside bars")},
        {charts::MarkKind::Outside, tr("Outside bars")},
        {charts::MarkKind::Swing, tr("Swings")},
        {charts::MarkKind::Divergence, tr("Divergences of the panes below")}};
    auto* menu = new StayingMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setAccessibleName(tr("Which events are marked"));
    for (const auto& [kind, title] : kinds) {
        QAction* action = menu->addAction(title);
        action->setCheckable(true);
        action->setChecked(std::ranges::find(setUp_.marks, kind) != setUp_.marks.end());
        connect(action, &QAction::toggled, this, [this, kind = kind](bool isOn) {
            change(
                [&](SetUp& setUp) {
                    std::erase(setUp.marks, kind);
                    if (isOn)
                        setUp.marks.push_back(kind);
                },
                true);
        });
    }
    menu->popup(mapToGlobal(picture_.plots().topLeft().toPoint() + QPoint(8, 8)));
}

/// The person's own, then the ready ones.
std::vector<SetUp> ChartView::setUpsOffered() const
{
    std::vector<SetUp> all = ownSetUps_;
    const auto& ready = charts::readySetUps();
    all.insert(all.end(), ready.begin(), ready.end());
    return all;
}

void ChartView::offerSetUps()
{
    auto* menu = new ToolMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setAccessibleName(tr("Set-ups of the chart"));
    const std::vector<SetUp> all = setUpsOffered();
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (i == ownSetUps_.size() && i > 0)
            menu->addSeparator();
        QAction* action = menu->addAction(text(all[i].name).replace(u'&', QStringLiteral("&&")));
        action->setCheckable(true);
        action->setChecked(all[i].name == setUp_.name);
        connect(action, &QAction::triggered, this,
                [this, chosen = all[i]] { change([&](SetUp& setUp) { setUp = chosen; }, true); });
    }
    menu->addSeparator();
    menu->addAction(findAction(*this, ActionId::KeepSetUp));
    if (!ownSetUps_.empty()) {
        QMenu* forget = menu->addMenu(tr("Forget one of yours"));
        for (const SetUp& own : ownSetUps_)
            connect(forget->addAction(text(own.name)), &QAction::triggered, this,
                    [this, name = text(own.name)] { Q_EMIT setUpForgotten(name); });
    }
    menu->popup(mapToGlobal(picture_.plots().topLeft().toPoint() + QPoint(8, 8)));
}

/// Under a name that the person gives; one that a ready set-up has is none of theirs.
void ChartView::keepSetUp()
{
    auto* dialog = new QInputDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setWindowTitle(tr("Keep this set-up"));
    dialog->setLabelText(tr("Name of the set-up:"));
    dialog->setTextValue(text(setUp_.name));
    connect(dialog, &QInputDialog::textValueSelected, this, [this](const QString& typed) {
        const std::string name = utf8(typed.trimmed());
        const auto& ready = charts::readySetUps();
        if (name.empty())
            return;
        if (std::ranges::find(ready, name, &SetUp::name) != ready.end())
            return Q_EMIT failed(tr("“%1” is a ready set-up; choose another name.").arg(typed));
        change([&](SetUp& setUp) { setUp.name = name; }, false);
        Q_EMIT setUpKept(setUp_);
    });
    dialog->open();
}

void ChartView::editSetUp()
{
    auto* dialog = new SetUpDialog(setUp_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this,
            [this, dialog] { change([dialog](SetUp& setUp) { setUp = dialog->setUp(); }, true); });
    dialog->open();
}

void ChartView::addReadyLayer()
{
    auto* dialog = new ReadyLayersDialog(setUp_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &ReadyLayersDialog::tried, this, [this](const SetUp& tried) {
        if (tried != setUp_)
            change([&](SetUp& setUp) { setUp = tried; }, true);
    });
    // Beside the chart, as far as there is room: it shows what is tried.
    dialog->move(mapToGlobal(QPoint(width() - 20, 0)));
    dialog->open();
}

void ChartView::editLayers()
{
    auto* dialog = new LayersDialog(setUp_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setChart(chart());
    connect(dialog, &LayersDialog::changed, this,
            [this, dialog] { change([dialog](SetUp& setUp) { setUp = dialog->setUp(); }, true); });
    connect(this, &ChartView::chartChanged, dialog, [this, dialog] { dialog->setChart(chart()); });
    dialog->open();
}

void ChartView::askForFile()
{
    const QString file = pictureFileAsked(this);
    if (file.isEmpty())
        return;
    beside(
        this, [file, picture = pictureFor(file)] { return writePicture(file, picture()); },
        [this, file](bool isWritten) {
            if (!isWritten)
                Q_EMIT failed(tr("The picture could not be written to %1. Choose a folder that "
                                 "may be written to and has room.")
                                  .arg(file));
        });
}

} // namespace sieve::app
