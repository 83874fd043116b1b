#include "app/sift/screen_head.h"

#include "app/desk/desk.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/actions.h"
#include "app/parts/elided_label.h"
#include "app/parts/number_text.h"
#include "app/sift/own_field_editor.h"
#include "app/sift/screen_browser.h"
#include "app/sift/screen_details.h"
#include "core/screens/screen_files.h"
#include "core/screens/starter.h"

#include <QAction>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>
#include <algorithm>
#include <map>

namespace sieve::app {

ScreenHead::ScreenHead(Desk& desk, std::function<screens::Screen()> draft, QWidget* place)
    : QWidget(place), desk_(desk), draft_(std::move(draft)), name_(new QToolButton),
      save_(new QToolButton), purpose_(new ElidedLabel)
{
    name_->setPopupMode(QToolButton::InstantPopup);
    name_->setFont(fontOf(Weight::SemiBold, 1.15));
    name_->setMenu(new QMenu(name_));
    name_->setAccessibleName(tr("Screen"));
    save_->setText(tr("Save"));
    save_->setToolTip(tipOf(ActionId::SaveScreen));
    connect(save_, &QToolButton::clicked, this, &ScreenHead::save);
    auto* asText = new QToolButton;
    asText->setText(tr("As text"));
    asText->setToolTip(tipOf(ActionId::ScreenAsText));
    asText->setCheckable(true);
    connect(asText, &QToolButton::toggled, this, &ScreenHead::asTextWanted);
    setTone(purpose_, Tone::Soft);
    purpose_->setContentsMargins(7, 0, 0, 2);
    purpose_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    auto* line = new QHBoxLayout;
    line->addWidget(name_);
    line->addStretch(1);
    line->addWidget(save_);
    line->addWidget(asText);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addLayout(line);
    layout->addWidget(purpose_);

    acts_ = {
        makeAction(place, ActionId::ChooseScreen, [this] { browse(); }),
        makeAction(place, ActionId::OwnFields, [this] { OwnFieldEditor(desk_, this).exec(); }),
        makeAction(place, ActionId::NewScreen, [this] { begin(); }),
        makeAction(place, ActionId::SaveScreen, [this] { save(); }),
        makeAction(place, ActionId::SaveScreenAs, [this] { saveAs(); }),
    };
    makeAction(place, ActionId::ScreenAsText, [asText] { asText->toggle(); });
    // Filled when it opens: a screen may be chosen from the menu that would be filled anew.
    connect(name_->menu(), &QMenu::aboutToShow, this, &ScreenHead::fillMenu);
    connect(&desk_.screenShelf(), &ScreenShelf::changed, this, &ScreenHead::updateTexts);
    fillMenu();
}

void ScreenHead::updateTexts()
{
    const screens::Screen draft = draft_();
    const screens::Screen* saved = desk_.screenShelf().find(draft.name);
    const bool isChanged = saved && !(*saved == draft);
    const QFontMetrics metrics(name_->font());
    name_->setText(metrics.elidedText(text(draft.name), Qt::ElideRight,
                                      metrics.horizontalAdvance(QLatin1Char('0')) * 36) +
                   (isChanged ? tr(" (changed)") : QString()) + QStringLiteral("  ▾"));
    name_->setToolTip(tr("%1\nChoose, save or begin a screen").arg(text(draft.name)));
    purpose_->setText(text(draft.purpose));
    purpose_->setToolTip(text(draft.purpose));
    save_->setEnabled(!saved || isChanged);
}

/// The person's own by folder; for all else there is the browser.
void ScreenHead::fillMenu()
{
    QMenu* menu = name_->menu();
    menu->clear();
    for (QMenu* former : menu->findChildren<QMenu*>(QString(), Qt::FindDirectChildrenOnly))
        former->deleteLater();
    menu->setToolTipsVisible(true);
    std::map<std::string, QMenu*> folders{{"", menu}};
    const auto add = [&](const std::string& folder, const screens::Screen& screen) {
        QMenu*& where = folders[folder];
        if (!where) {
            where = menu->addMenu(text(folder));
            where->setToolTipsVisible(true);
        }
        QAction* action = where->addAction(text(screen.name));
        action->setToolTip(text(screen.purpose));
        connect(action, &QAction::triggered, this, [this, screen] { choose(screen); });
    };
    if (desk_.screenShelf().all().empty())
        menu->addSection(tr("What you save stands here"));
    for (const screens::Screen& screen : desk_.screenShelf().all())
        if (!screen.folder.empty())
            add(screen.folder, screen);
    for (const screens::Screen& screen : desk_.screenShelf().all())
        if (screen.folder.empty())
            add("", screen);
    if (const auto& drafts = desk_.work().now().drafts; !drafts.empty()) {
        menu->addSection(tr("Changed and not saved"));
        for (const auto& draft : drafts)
            add("", *draft);
    }
    menu->addSeparator();
    menu->addActions(acts_);
}

void ScreenHead::choose(const screens::Screen& screen)
{
    desk_.work().edit(tr("Choose another screen"),
                      [&screen](Work& work) { library::takeInHand(work, screen); });
    Q_EMIT chosen();
}

void ScreenHead::begin()
{
    screens::Screen fresh;
    std::vector<screens::Screen> taken = desk_.screenShelf().all();
    for (const auto& draft : desk_.work().now().drafts)
        taken.push_back(*draft);
    taken.push_back(draft_());
    fresh.name = screens::freeName(utf8(tr("New screen")), taken);
    fresh.columns = {"symbol", "name", "sector", "close", "day_change", "market_cap"};
    choose(fresh);
    Q_EMIT begun();
}

void ScreenHead::browse()
{
    ScreenBrowser browser(desk_, this);
    if (browser.exec() == QDialog::Accepted)
        choose(*browser.chosen());
}

void ScreenHead::save()
{
    const screens::Screen draft = draft_();
    if (!desk_.screenShelf().find(draft.name))
        return saveAs();
    saveAsOwn(draft);
}

void ScreenHead::saveAs()
{
    QDialog dialog(this);
    dialog.setWindowTitle(tr("Save screen"));
    dialog.resize(480, 0);
    auto* details = new ScreenDetails;
    details->show(draft_(), desk_.screenShelf().all());
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Save | QDialogButtonBox::Cancel);
    auto* layout = new QVBoxLayout(&dialog);
    layout->addWidget(details);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    connect(details, &ScreenDetails::edited, &dialog, [details, buttons] {
        buttons->button(QDialogButtonBox::Save)->setEnabled(!details->screen().name.empty());
    });
    details->focusName();
    if (dialog.exec() != QDialog::Accepted || details->screen().name.empty())
        return;
    saveAsOwn(details->screen());
}

void ScreenHead::saveAsOwn(const screens::Screen& screen)
{
    desk_.work().edit(tr("Save the screen “%1”").arg(text(screen.name)), [&](Work& work) {
        work.screen = screen;
        keepScreen(work, screen, desk_.work().newId());
    });
}

} // namespace sieve::app
