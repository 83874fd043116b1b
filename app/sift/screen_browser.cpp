#include "app/sift/screen_browser.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "app/sift/screen_details.h"
#include "app/sift/screen_texts.h"
#include "app/sift/screen_versions.h"
#include "core/screens/run.h"
#include "core/screens/screen_files.h"
#include "core/screens/starter.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSplitter>
#include <QTabWidget>
#include <QTextBrowser>
#include <QTreeWidget>
#include <QTreeWidgetItemIterator>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>

namespace sieve::app {

namespace {

constexpr int kindRole = Qt::UserRole;
constexpr int nameRole = Qt::UserRole + 1;
constexpr int wordsRole = Qt::UserRole + 2;

/// The screen with what `from` says of it beside its criteria.
screens::Screen withDetails(screens::Screen screen, const screens::Screen& from)
{
    screen.name = from.name;
    screen.folder = from.folder;
    screen.purpose = from.purpose;
    screen.side = from.side;
    screen.tags = from.tags;
    screen.notes = from.notes;
    return screen;
}

} // namespace

ScreenBrowser::ScreenBrowser(Desk& desk, QWidget* parent)
    : QDialog(parent), desk_(desk), counter_(this), files_(this, Asker::About::Else),
      words_(new QLineEdit), tree_(new QTreeWidget), title_(new QLabel), facts_(new QLabel),
      tabs_(new QTabWidget), asks_(new QTextBrowser), details_(new ScreenDetails),
      saveDetails_(new QPushButton(tr("Save these details"))), versions_(new ScreenVersions(desk)),
      open_(new QPushButton(tr("Open"))), remove_(new QPushButton(tr("Remove"))),
      export_(new QPushButton(tr("Export…"))), summary_(new QLabel)
{
    setWindowTitle(tr("Screens"));
    resize(1060, 680);
    words_->setPlaceholderText(tr("Find by name, purpose, tag or what a criterion says"));
    words_->setAccessibleName(tr("Find a screen"));
    words_->setClearButtonEnabled(true);
    tree_->setAccessibleName(tr("Screens"));
    tree_->setHeaderLabels({tr("Screen"), tr("Passing")});
    tree_->setProperty("roomy", true);
    tree_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    tree_->header()->setStretchLastSection(false);
    tree_->header()->setSectionResizeMode(NameColumn, QHeaderView::Stretch);
    tree_->header()->setSectionResizeMode(PassingColumn, QHeaderView::ResizeToContents);
    tree_->headerItem()->setTextAlignment(PassingColumn, Qt::AlignRight | Qt::AlignVCenter);
    tree_->headerItem()->setToolTip(PassingColumn, tr("How many pass it on the as-of day"));
    auto* left = new QWidget;
    auto* leftLayout = new QVBoxLayout(left);
    leftLayout->setContentsMargins(0, 0, 0, 0);
    leftLayout->addWidget(words_);
    leftLayout->addWidget(tree_, 1);
    auto* halves = new QSplitter;
    halves->setChildrenCollapsible(false);
    halves->addWidget(left);
    halves->addWidget(buildRight());
    halves->setSizes({420, 640});
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(halves, 1);
    layout->addWidget(buildFoot());
    open_->setDefault(true); // only within the dialog does it know whose default it is

    connect(words_, &QLineEdit::textChanged, this, &ScreenBrowser::filter);
    connect(tree_, &QTreeWidget::currentItemChanged, this, &ScreenBrowser::showCurrent);
    connect(tree_, &QTreeWidget::itemSelectionChanged, this, &ScreenBrowser::enableActs);
    connect(tree_, &QTreeWidget::itemDoubleClicked, this, &ScreenBrowser::open);
    connect(&desk_.screenShelf(), &ScreenShelf::changed, this, &ScreenBrowser::fill);
    for (Asker* asker : {&counter_, &files_})
        connect(asker, &Asker::failed, summary_, &QLabel::setText);
    shown_ = desk_.work().now().screen->name;
    fill();
    words_->setFocus();
}

QWidget* ScreenBrowser::buildRight()
{
    title_->setFont(fontOf(Weight::SemiBold, 1.15));
    title_->setWordWrap(true);
    facts_->setWordWrap(true);
    setTone(facts_, Tone::Soft);
    asks_->setAccessibleName(tr("What it asks"));
    asks_->setFrameShape(QFrame::NoFrame);
    auto* details = new QWidget;
    auto* detailsLayout = new QVBoxLayout(details);
    detailsLayout->addWidget(details_);
    detailsLayout->addWidget(saveDetails_, 0, Qt::AlignRight);
    detailsLayout->addStretch(1);
    saveDetails_->setAutoDefault(false);
    connect(saveDetails_, &QPushButton::clicked, this, &ScreenBrowser::saveDetails);
    tabs_->setDocumentMode(true);
    tabs_->addTab(asks_, tr("What it asks"));
    tabs_->addTab(details, tr("Details"));
    tabs_->addTab(versions_, tr("Versions"));
    auto* right = new QWidget;
    auto* layout = new QVBoxLayout(right);
    layout->setContentsMargins(8, 0, 0, 0);
    layout->addWidget(title_);
    layout->addWidget(facts_);
    layout->addWidget(tabs_, 1);
    return right;
}

QWidget* ScreenBrowser::buildFoot()
{
    auto* import = new QPushButton(tr("Import…"));
    auto* close = new QPushButton(tr("Close"));
    setTone(summary_, Tone::Soft);
    summary_->setWordWrap(true);
    remove_->setToolTip(tr("Takes it out of yours; its versions stay under Removed"));
    export_->setToolTip(tr("Writes each selected screen as a file of TOML into a folder"));
    import->setToolTip(tr("Takes in files of TOML, a screen each"));
    auto* foot = new QWidget;
    auto* layout = new QHBoxLayout(foot);
    layout->setContentsMargins(0, 4, 0, 0);
    for (QPushButton* button : {import, export_, remove_}) {
        button->setAutoDefault(false);
        layout->addWidget(button);
    }
    close->setAutoDefault(false);
    open_->setProperty("leading", true);
    layout->addWidget(summary_, 1);
    layout->addWidget(close);
    layout->addWidget(open_);
    connect(import, &QPushButton::clicked, this, &ScreenBrowser::importFiles);
    connect(export_, &QPushButton::clicked, this, &ScreenBrowser::exportSelected);
    connect(remove_, &QPushButton::clicked, this, &ScreenBrowser::removeSelected);
    connect(open_, &QPushButton::clicked, this, &ScreenBrowser::open);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    return foot;
}

QTreeWidgetItem* ScreenBrowser::group(QTreeWidgetItem* under, const QString& title)
{
    auto* item = under ? new QTreeWidgetItem(under) : new QTreeWidgetItem(tree_);
    item->setText(NameColumn, title);
    item->setFlags(Qt::ItemIsEnabled);
    item->setData(NameColumn, kindRole, static_cast<int>(Kind::Group));
    if (!under)
        item->setFont(NameColumn, fontOf(Weight::SemiBold));
    return item;
}

QTreeWidgetItem* ScreenBrowser::folderOf(QTreeWidgetItem* root, const std::string& folder)
{
    QTreeWidgetItem* at = root;
    for (const QString& part : text(folder).split(QLatin1Char('/'), Qt::SkipEmptyParts)) {
        QTreeWidgetItem* next = nullptr;
        for (int i = 0; i < at->childCount() && !next; ++i)
            if (entryOf(at->child(i)).kind == Kind::Group && at->child(i)->text(0) == part)
                next = at->child(i);
        at = next ? next : group(at, part);
    }
    return at;
}

void ScreenBrowser::addScreen(QTreeWidgetItem* under, const screens::Screen& screen, Kind kind)
{
    auto* item = new QTreeWidgetItem(under);
    item->setText(NameColumn, text(screen.name));
    item->setToolTip(NameColumn, text(screen.purpose));
    item->setTextAlignment(PassingColumn, Qt::AlignRight | Qt::AlignVCenter);
    item->setData(NameColumn, kindRole, static_cast<int>(kind));
    item->setData(NameColumn, nameRole, text(screen.name));
    item->setData(NameColumn, wordsRole, wordsOf(screen));
}

void ScreenBrowser::fill()
{
    const QSignalBlocker quiet(tree_);
    tree_->clear();
    QTreeWidgetItem* own = group(nullptr, tr("Yours"));
    std::vector<screens::Screen> byFolder = desk_.screenShelf().all();
    std::ranges::stable_sort(byFolder, {}, &screens::Screen::folder);
    std::stable_partition(byFolder.begin(), byFolder.end(),
                          [](const auto& each) { return !each.folder.empty(); });
    for (const screens::Screen& screen : byFolder)
        addScreen(folderOf(own, screen.folder), screen, Kind::Own);
    if (byFolder.empty())
        group(own, tr("What you save stands here"));
    QTreeWidgetItem* ready = group(nullptr, tr("Ready, by purpose"));
    for (const screens::Screen& screen : screens::starterScreens())
        addScreen(folderOf(ready, utf8(purposeOf(screen))), screen, Kind::Ready);
    ready->sortChildren(NameColumn, Qt::AscendingOrder);
    tree_->expandAll();
    for (QTreeWidgetItemIterator at(tree_); *at; ++at)
        if (entryOf(*at).name == shown_ && !tree_->currentItem())
            tree_->setCurrentItem(*at);
    desk_.screenShelf().readRemoved(
        this, [this](const std::vector<std::string>& names) { addRemoved(names); });
    filter();
    showCurrent();
    askCounts();
}

void ScreenBrowser::addRemoved(const std::vector<std::string>& names)
{
    for (int i = 0; i < tree_->topLevelItemCount(); ++i)
        if (tree_->topLevelItem(i)->text(NameColumn) == tr("Removed"))
            delete tree_->takeTopLevelItem(i);
    if (names.empty())
        return;
    QTreeWidgetItem* removed = group(nullptr, tr("Removed"));
    for (const std::string& name : names) {
        screens::Screen screen;
        screen.name = name;
        addScreen(removed, screen, Kind::Removed);
    }
    removed->setExpanded(true);
    filter();
}

/// How many pass each, in one job: what they share is evaluated once.
void ScreenBrowser::askCounts()
{
    if (!desk_.market().isOpen())
        return;
    std::vector<std::pair<Kind, screens::Screen>> all;
    for (const screens::Screen& screen : screens::starterScreens())
        all.emplace_back(Kind::Ready, screen);
    for (const screens::Screen& screen : desk_.screenShelf().all()) // may bear a ready one's name
        all.emplace_back(Kind::Own, screen);
    using Counts = std::map<std::pair<Kind, std::string>, std::optional<std::size_t>>;
    counter_.ask(
        [all = std::move(all), evaluator = desk_.market().evaluator(),
         book = desk_.work().nameBook(), day = desk_.focus().day()](const Progress& progress) {
            Counts counts; // nothing for a screen that no longer checks
            for (const auto& [kind, screen] : all) {
                const auto run = screens::run(screen, book->names(), *evaluator, day, progress);
                const bool isRight = !run.universeError && !run.rankError &&
                                     std::ranges::none_of(run.criteria, [](const auto& c) {
                                         return c.error.has_value();
                                     });
                counts[{kind, screen.name}] = isRight ? std::optional(run.passing) : std::nullopt;
            }
            return counts;
        },
        [this](const Counts& counts) {
            for (QTreeWidgetItemIterator at(tree_); *at; ++at) {
                const Entry entry = entryOf(*at);
                const auto found = counts.find({entry.kind, entry.name});
                if (found == counts.end())
                    continue;
                (*at)->setText(PassingColumn, found->second ? QString::number(*found->second)
                                                            : tr("does not check"));
                if (!found->second)
                    (*at)->setForeground(PassingColumn, look().caution);
            }
        });
}

/// Shows what has all the words, with the groups it stands in.
void ScreenBrowser::filter()
{
    const QStringList words = words_->text().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    QTreeWidgetItem* first = nullptr;
    for (QTreeWidgetItemIterator at(tree_); *at; ++at)
        (*at)->setHidden(!words.isEmpty());
    for (QTreeWidgetItemIterator at(tree_); *at && !words.isEmpty(); ++at) {
        const QString all = (*at)->data(NameColumn, wordsRole).toString();
        const bool isFound = !all.isEmpty() && std::ranges::all_of(words, [&](const QString& word) {
            return all.contains(word, Qt::CaseInsensitive);
        });
        for (QTreeWidgetItem* item = isFound ? *at : nullptr; item; item = item->parent())
            item->setHidden(false);
        first = isFound && !first ? *at : first;
    }
    if (first && (!tree_->currentItem() || tree_->currentItem()->isHidden()))
        tree_->setCurrentItem(first);
}

ScreenBrowser::Entry ScreenBrowser::entryOf(const QTreeWidgetItem* item) const
{
    if (!item)
        return {};
    return {static_cast<Kind>(item->data(NameColumn, kindRole).toInt()),
            utf8(item->data(NameColumn, nameRole).toString())};
}

std::optional<screens::Screen> ScreenBrowser::screenOf(const QTreeWidgetItem* item) const
{
    const Entry entry = entryOf(item);
    if (entry.kind == Kind::Own)
        if (const screens::Screen* screen = desk_.screenShelf().find(entry.name))
            return *screen;
    if (entry.kind == Kind::Ready)
        for (const screens::Screen& screen : screens::starterScreens())
            if (screen.name == entry.name)
                return screen;
    return std::nullopt;
}

std::vector<screens::Screen> ScreenBrowser::selectedScreens() const
{
    std::vector<screens::Screen> all;
    for (const QTreeWidgetItem* item : tree_->selectedItems())
        if (auto screen = screenOf(item))
            all.push_back(*std::move(screen));
    return all;
}

void ScreenBrowser::showCurrent()
{
    const Entry entry = entryOf(tree_->currentItem());
    const auto screen = screenOf(tree_->currentItem());
    const bool isOwn = entry.kind == Kind::Own;
    shown_ = entry.name;
    title_->setText(text(entry.name));
    facts_->setVisible(screen.has_value());
    if (screen) {
        QStringList facts;
        if (!screen->purpose.empty())
            facts << text(screen->purpose);
        facts << (screen->side == screens::ScreenSide::Long ? tr("Long") : tr("Short"));
        for (const std::string& tag : screen->tags)
            facts << text(tag);
        facts_->setText(facts.join(QStringLiteral("  ·  ")));
        asks_->setHtml(screenAsHtml(*screen, desk_.work().nameBook()->names()));
        details_->show(*screen, desk_.screenShelf().all());
    } else {
        asks_->setHtml(entry.kind == Kind::Removed
                           ? tr("Removed. Under Versions it can be looked at and brought back.")
                           : QString());
    }
    tabs_->setTabEnabled(1, isOwn);
    tabs_->setTabEnabled(2, isOwn || entry.kind == Kind::Removed);
    if (tabs_->isTabEnabled(2))
        versions_->show(entry.name);
    open_->setEnabled(screen.has_value());
    enableActs();
}

void ScreenBrowser::enableActs()
{
    export_->setEnabled(!selectedScreens().empty());
    remove_->setEnabled(std::ranges::any_of(tree_->selectedItems(), [this](const auto* item) {
        return entryOf(item).kind == Kind::Own;
    }));
}

void ScreenBrowser::open()
{
    chosen_ = screenOf(tree_->currentItem());
    if (chosen_)
        accept();
}

void ScreenBrowser::saveDetails()
{
    const auto before = screenOf(tree_->currentItem());
    const screens::Screen after = details_->screen();
    if (!before || after.name.empty() || entryOf(tree_->currentItem()).kind != Kind::Own)
        return;
    if (after.name != before->name && desk_.screenShelf().find(after.name)) {
        summary_->setText(
            tr("Another of yours is called “%1”. Nothing was changed.").arg(text(after.name)));
        return;
    }
    shown_ = after.name;
    const bool isDone = desk_.work().edit(
        tr("Change the details of “%1”").arg(text(before->name)), [&](Work& work) {
            if (after.name != before->name)
                renameScreen(work, before->name, after);
            else
                keepScreen(work, after, 0); // it is there, and has its number
            if (work.screen->name == before->name)
                work.screen = withDetails(*work.screen, after);
        });
    summary_->setText(isDone ? tr("Saved.") : tr("Nothing was changed."));
}

void ScreenBrowser::removeSelected()
{
    std::vector<std::string> names;
    for (const QTreeWidgetItem* item : tree_->selectedItems())
        if (entryOf(item).kind == Kind::Own)
            names.push_back(entryOf(item).name);
    if (desk_.screenShelf().remove(names))
        summary_->setText(
            tr("%1 removed; their versions are kept under Removed.").arg(names.size()));
}

void ScreenBrowser::importFiles()
{
    std::vector<std::filesystem::path> files;
    for (const QString& file : QFileDialog::getOpenFileNames(this, tr("Import screens"), {},
                                                             tr("Screens (*.toml);;All files (*)")))
        files.emplace_back(utf8(file));
    if (files.empty())
        return;
    files_.ask([files](const Progress&) { return screens::readScreens(files); },
               [this](const screens::ReadScreens& read) {
                   std::vector<screens::Screen> taken = desk_.screenShelf().all();
                   const std::size_t own = taken.size();
                   for (screens::Screen screen : read.screens) {
                       screen.name = screens::freeName(screen.name, taken);
                       shown_ = screen.name;
                       taken.push_back(screen);
                   }
                   taken.erase(taken.begin(), taken.begin() + static_cast<std::ptrdiff_t>(own));
                   if (!taken.empty() && !desk_.screenShelf().saveAll(taken))
                       return summary_->setText(tr("Nothing was changed."));
                   QStringList lines{tr("%1 taken in.").arg(read.screens.size())};
                   for (const std::string& problem : read.problems)
                       lines << text(problem);
                   summary_->setText(lines.join(QLatin1Char('\n')));
               });
}

void ScreenBrowser::exportSelected()
{
    const auto chosen = selectedScreens();
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Export screens into"));
    if (chosen.empty() || folder.isEmpty())
        return;
    files_.ask([chosen, path = std::filesystem::path(utf8(folder))](
                   const Progress&) { return screens::writeScreens(path, chosen).size(); },
               [this, folder](std::size_t count) {
                   summary_->setText(tr("%1 written into %2").arg(count).arg(folder));
               });
}

} // namespace sieve::app
