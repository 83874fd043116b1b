#include "app/sift/screen_versions.h"

#include "app/desk/desk.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "core/screens/comparison.h"

#include <QComboBox>
#include <QDateTime>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QSplitter>
#include <QTimeZone>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

enum Against { Before, Now, InHand };

/// "25 Nov 2026 11:20" in the person's time zone.
QString momentText(const std::string& utc)
{
    QDateTime moment = QDateTime::fromString(text(utc), QStringLiteral("yyyy-MM-dd hh:mm:ss"));
    moment.setTimeSpec(Qt::UTC);
    return QLocale::c().toString(moment.toLocalTime(), QStringLiteral("d MMM yyyy hh:mm:ss"));
}

} // namespace

ScreenVersions::ScreenVersions(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), list_(new QTreeWidget), against_(new QComboBox),
      differences_(new QTreeWidget), bringBack_(new QPushButton(tr("Bring this version back")))
{
    list_->setAccessibleName(tr("Versions"));
    list_->setHeaderLabels({tr("Saved"), tr("Criteria"), tr("What it changed")});
    list_->setRootIsDecorated(false);
    list_->setProperty("roomy", true);
    differences_->setProperty("roomy", true);
    list_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    list_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    against_->addItems({tr("What it changed"), tr("What changed since, up to the newest"),
                        tr("What changed since, up to the one in hand")});
    against_->setAccessibleName(tr("Compared with"));
    differences_->setAccessibleName(tr("Differences"));
    differences_->setHeaderLabels({tr("Part"), tr("Before"), tr("After")});
    differences_->setRootIsDecorated(false);
    differences_->setWordWrap(true);
    bringBack_->setAutoDefault(false);
    bringBack_->setToolTip(tr("Saves it again as the newest version; nothing is lost"));
    auto* below = new QWidget;
    auto* belowLayout = new QVBoxLayout(below);
    belowLayout->setContentsMargins(0, 0, 0, 0);
    auto* bar = new QHBoxLayout;
    bar->addWidget(against_);
    bar->addStretch(1);
    bar->addWidget(bringBack_);
    belowLayout->addLayout(bar);
    belowLayout->addWidget(differences_, 1);
    auto* halves = new QSplitter(Qt::Vertical);
    halves->setChildrenCollapsible(false);
    halves->addWidget(list_);
    halves->addWidget(below);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 8);
    layout->addWidget(halves);
    connect(list_, &QTreeWidget::currentItemChanged, this, &ScreenVersions::compare);
    connect(against_, &QComboBox::currentIndexChanged, this, &ScreenVersions::compare);
    connect(bringBack_, &QPushButton::clicked, this, &ScreenVersions::bringBack);
}

void ScreenVersions::show(const std::string& name)
{
    name_ = name;
    desk_.screenShelf().readVersions(
        name, this, [this, name](const std::vector<library::ScreenVersion>& versions) {
            if (name == name_)
                fill(versions);
        });
}

void ScreenVersions::fill(const std::vector<library::ScreenVersion>& versions)
{
    versions_ = versions;
    list_->clear();
    for (std::size_t i = 0; i < versions.size(); ++i) {
        QString change = tr("saved for the first time");
        if (i + 1 < versions.size()) {
            QStringList parts;
            for (const auto& difference : differences(versions[i + 1].screen, versions[i].screen))
                if (!parts.contains(text(difference.part)))
                    parts << text(difference.part);
            change = parts.join(QStringLiteral(", "));
        }
        new QTreeWidgetItem(list_, {momentText(versions[i].savedAt),
                                    QString::number(versions[i].screen.criteria.size()), change});
    }
    list_->setCurrentItem(list_->topLevelItem(0));
    compare();
}

void ScreenVersions::compare()
{
    differences_->clear();
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    const bool isOfNow = row == 0 && desk_.screenShelf().find(name_);
    bringBack_->setEnabled(row >= 0 && !isOfNow);
    if (row < 0)
        return;
    const auto place = static_cast<std::size_t>(row);
    const screens::Screen& own = versions_[place].screen;
    std::vector<screens::Difference> found;
    switch (against_->currentIndex()) {
    case Before:
        if (place + 1 < versions_.size())
            found = differences(versions_[place + 1].screen, own);
        break;
    case Now:
        found = differences(own, versions_.front().screen);
        break;
    case InHand:
        found = differences(own, *desk_.work().now().screen);
        break;
    default:
        break;
    }
    for (const screens::Difference& each : found) {
        auto* item = new QTreeWidgetItem(differences_,
                                         {text(each.part), text(each.before), text(each.after)});
        for (int column = 0; column < 3; ++column)
            item->setToolTip(column, item->text(column));
    }
    if (found.empty())
        new QTreeWidgetItem(differences_, {tr("No difference")});
    differences_->resizeColumnToContents(0);
    differences_->setColumnWidth(1, (differences_->width() - differences_->columnWidth(0)) / 2);
}

void ScreenVersions::bringBack()
{
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    if (row < 0)
        return;
    screens::Screen screen = versions_[static_cast<std::size_t>(row)].screen;
    screen.name = name_; // it may have had another
    desk_.screenShelf().save(screen);
    show(name_);
}

} // namespace sieve::app
