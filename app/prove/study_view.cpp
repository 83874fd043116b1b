#include "app/prove/study_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/library_keeper.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/actions.h"
#include "app/parts/empty_page.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/parts/saved_page.h"
#include "app/prove/question_panel.h"

#include <QBuffer>
#include <QCoreApplication>
#include <QDate>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QSplitter>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

StudyView::StudyView(Desk& desk, QuestionPanel* panel, const char* key)
    : desk_(desk), panel_(panel), asker_(this), saver_(this, Asker::About::Else), told_(new QLabel),
      deeds_(new QWidget), asOf_(new QLabel), cautions_(new QLabel), empty_(new EmptyPage),
      inside_(new QWidget), insideLayout_(new QVBoxLayout(inside_))
{
    told_->setWordWrap(true);
    told_->setFont(fontOf(Weight::Medium, 1.08));
    for (QLabel* label : {asOf_, cautions_}) {
        label->setWordWrap(true);
        setTone(label, Tone::Caution);
    }
    insideLayout_->setContentsMargins(0, 0, 0, 0);
    insideLayout_->addWidget(cautions_);
    auto* answer = new QWidget;
    auto* answerLayout = new QVBoxLayout(answer);
    answerLayout->setContentsMargins(8, 0, 0, 0);
    auto* keepButton = new QPushButton(tr("Keep"));
    keepButton->setToolTip(tipOf(ActionId::KeepAnswer));
    connect(keepButton, &QPushButton::clicked, this, &StudyView::keep);
    auto* saveButton = new QPushButton(tr("Save…"));
    saveButton->setToolTip(tipOf(ActionId::SaveAnswer));
    connect(saveButton, &QPushButton::clicked, this, &StudyView::save);
    auto* deedsLayout = new QHBoxLayout(deeds_);
    deedsLayout->setContentsMargins(0, 0, 0, 0);
    deedsLayout->addWidget(keepButton);
    deedsLayout->addWidget(saveButton);
    auto* head = new QHBoxLayout;
    head->addWidget(told_, 1);
    head->addWidget(deeds_, 0, Qt::AlignTop);
    answerLayout->addLayout(head);
    answerLayout->addWidget(asOf_);
    answerLayout->addWidget(empty_, 1);
    answerLayout->addWidget(inside_, 1);
    answerLayout->addStretch(0);
    auto* split = new QSplitter;
    remember(split, key);
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(panel_);
    split->addWidget(answer);
    split->setSizes({290, 890});
    split->setStretchFactor(1, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(split);
    connect(panel_, &QuestionPanel::asked, this, &StudyView::ask);
    connect(panel_, &QuestionPanel::stopped, this,
            [this] { stop(tr("Stopped; nothing was found out.")); });
    connect(&asker_, &Asker::progressed, panel_, &QuestionPanel::tellProgress);
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    connect(&asker_, &Asker::failed, this, [this] { stop(tr("It could not be answered.")); });
    connect(&saver_, &Asker::failed, &desk, &Desk::noticed);
    connect(empty_, &EmptyPage::stepTaken, this, &StudyView::takeExample);
    connect(&desk.market(), &OpenMarket::opened, this, &StudyView::reset);
    connect(&desk.focus(), &Focus::dayChanged, this, &StudyView::tellDay);
    for (QWidget* each :
         {static_cast<QWidget*>(told_), deeds_, static_cast<QWidget*>(asOf_), inside_})
        each->hide();
}

void StudyView::setEmptyTexts(const QString& title, const QString& words, const QString& step)
{
    empty_->setTexts(title, words, step);
}

void StudyView::tell(const QString& what)
{
    empty_->hide();
    told_->setText(what);
    told_->show();
}

void StudyView::tellAnswer(const QString& sentence, const std::vector<studies::Caution>& cautions)
{
    // A figure stays beside its percent sign.
    sentence_ = QString(sentence).replace(QStringLiteral(" %"), QStringLiteral("\u00a0%"));
    ofAnswer_ = cautions;
    tell(sentence_);
    tellCautions();
}

std::vector<studies::Caution>
StudyView::cautionsOfTries(const std::vector<library::Trial>& /*trials*/) const
{
    return {};
}

void StudyView::tellCautions()
{
    std::vector<studies::Caution> all = ofAnswer_;
    if (!trials_.empty())
        for (const studies::Caution& each : cautionsOfTries(trials_))
            all.push_back(each);
    cautions_->setText(cautionsText(all));
    cautions_->setVisible(!all.empty());
}

/// The library writes and counts in its turn. In a window that only shows a library nothing is
/// counted.
void StudyView::noteTrial(const QString& unnamed, double sharpe)
{
    const studies::KeptRun run = kept();
    const QString idea = panel_->idea().isEmpty() ? unnamed : panel_->idea();
    const library::Trial trial{utf8(idea), std::string(kindWords(run.kind)), variantOf(run),
                               dayOf(QDate::currentDate()), sharpe};
    if (desk_.keeper().isReadOnly())
        return;
    desk_.keeper().ask(
        this, [trial](library::Library& library) { return library::noteTrial(library, trial); },
        [this, question = trial.question](const std::vector<library::Trial>& trials) {
            if (!known_.market || variantOf(kept()) != question)
                return; // another answer is shown by now
            trials_ = trials;
            tellCautions();
        },
        [this](const QString& why) {
            Q_EMIT desk_.noticed(tr("This try of the idea could not be counted: %1").arg(why));
        });
}

studies::KeptRun StudyView::keptWhole() const
{
    studies::KeptRun run = kept();
    run.askedOn = dayOf(QDate::currentDate());
    run.market = known_.market->description().name;
    run.data = known_.data;
    run.program = utf8(QCoreApplication::applicationVersion());
    run.sentence = utf8(sentence_);
    for (const studies::Caution& each :
         trials_.empty() ? std::vector<studies::Caution>() : cautionsOfTries(trials_))
        run.cautions.push_back(each.words);
    return run;
}

void StudyView::keep()
{
    if (!known_.market)
        return;
    studies::KeptRun run = keptWhole();
    run.id = desk_.work().newId();
    const QString name = text(titleOf(run));
    if (desk_.work().edit(tr("Keep the answer “%1”").arg(name),
                          [&](Work& work) { library::keepRun(work, run); }))
        Q_EMIT desk_.told(
            tr("“%1” is kept, among %2 answers.").arg(name).arg(desk_.work().now().runs->size()));
}

void StudyView::save()
{
    if (!known_.market)
        return;
    const std::vector<Table> all = tables();
    QStringList kinds = reportKinds();
    for (const Table& table : all)
        kinds << tr("%1, workbook (*.xlsx)").arg(table.title)
              << tr("%1, CSV (*.csv)").arg(table.title);
    const studies::KeptRun run = keptWhole();
    const auto chosen = chooseFile(this, tr("Save the answer"), text(titleOf(run)), kinds);
    if (!chosen)
        return;
    if (isReport(chosen->path)) {
        std::vector<Table> shown = all;
        std::erase_if(shown, [](const Table& table) { return !table.isInReport; });
        const OnPaper paper;
        return saveReport(saver_, desk_, chosen->path, run, pictures(), [shown] {
            std::vector<studies::ReportTable> tables;
            for (const Table& table : shown)
                tables.push_back({utf8(table.title), table.sheet()});
            return tables;
        });
    }
    const auto at = static_cast<std::size_t>(std::max(0, chosen->kind - 2)) / 2;
    saver_.ask(
        [sheet = all[at].sheet, path = chosen->path](const Progress&) {
            exports::writeSheet(std::filesystem::path(utf8(path)), sheet());
            return path;
        },
        [this](const QString& saved) { Q_EMIT desk_.told(tr("Saved as %1").arg(saved)); });
}

StudyView::Known StudyView::now() const
{
    return {desk_.market().evaluator()->marketPtr(), desk_.market().identity(),
            desk_.focus().day()};
}

void StudyView::begin(const QString& meanwhile)
{
    panel_->setBusy(true);
    tell(known_.market ? tr("%1 Below is still the answer before.").arg(meanwhile) : meanwhile);
}

/// Whether there is an answer to be shown.
bool StudyView::end(const std::optional<LocatedError>& fault, const Known& of)
{
    panel_->setBusy(false);
    known_ = fault ? Known() : of;
    inside_->setVisible(!fault);
    deeds_->setVisible(!fault);
    trials_.clear();
    tellDay();
    if (fault)
        tell(text(sentence(*fault)));
    return !fault;
}

void StudyView::stop(const QString& why)
{
    asker_.stop();
    panel_->setBusy(false);
    tell(known_.market ? sentence_ : why);
}

void StudyView::reset()
{
    asker_.stop();
    panel_->setBusy(false);
    known_ = {};
    trials_.clear();
    told_->hide();
    deeds_->hide();
    inside_->hide();
    empty_->show();
    tellDay();
    forget();
}

void StudyView::tellDay()
{
    const bool isOther = known_.market && known_.day != desk_.focus().day();
    asOf_->setVisible(isOther);
    if (isOther)
        asOf_->setText(tr("This is as known on %1. The as-of day is another one now: ask again.")
                           .arg(shortDayText(known_.day)));
}

studies::ReportPicture pictureOf(const QString& title, QWidget& widget, const QSize& size)
{
    constexpr int finer = 2; // so that it is sharp on paper
    widget.resize(size);
    QImage image(finer * size, QImage::Format_ARGB32_Premultiplied);
    image.setDevicePixelRatio(finer);
    image.fill(look().sheet);
    widget.render(&image);
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG");
    return {utf8(title), "data:image/png;base64," + bytes.toBase64().toStdString(), size.width()};
}

QStringList reportKinds()
{
    return {StudyView::tr("Report, PDF (*.pdf)"), StudyView::tr("Report, HTML (*.html)")};
}

bool isReport(const QString& path)
{
    return path.endsWith(QLatin1String(".pdf"), Qt::CaseInsensitive) ||
           path.endsWith(QLatin1String(".html"), Qt::CaseInsensitive);
}

std::optional<ChosenFile> chooseFile(QWidget* parent, const QString& title, const QString& name,
                                     const QStringList& kinds)
{
    QString base = name;
    base.replace(u'/', u'-');
    QFileDialog dialog(parent, title);
    dialog.setAcceptMode(QFileDialog::AcceptSave);
    dialog.setNameFilters(kinds);
    // The name bears the ending of the chosen kind, so that what is seen is what is written.
    const auto bear = [&dialog](const QString& kind) {
        const QString ending = kind.section(QStringLiteral("*."), -1).chopped(1);
        dialog.setDefaultSuffix(ending);
        if (const QStringList files = dialog.selectedFiles(); !files.isEmpty()) {
            const QFileInfo file(files.front());
            dialog.selectFile(file.path() + u'/' + file.completeBaseName() + u'.' + ending);
        }
    };
    QObject::connect(&dialog, &QFileDialog::filterSelected, &dialog, bear);
    dialog.setDefaultSuffix(QStringLiteral("pdf"));
    dialog.selectFile(base + QStringLiteral(".pdf"));
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty())
        return std::nullopt;
    return ChosenFile{dialog.selectedFiles().front(),
                      static_cast<int>(kinds.indexOf(dialog.selectedNameFilter()))};
}

void saveReport(Asker& saver, Desk& desk, const QString& path, const studies::KeptRun& run,
                const std::vector<studies::ReportPicture>& pictures,
                const std::function<std::vector<studies::ReportTable>()>& tables)
{
    exports::PageLook page;
    page.font = familyOfWindow();
    saver.ask(
        [=](const Progress&) {
            return savePage(path, {text(titleOf(run)), reportOf(run, pictures, tables(), page)});
        },
        [&desk, path](const QString& fault) {
            if (fault.isEmpty())
                Q_EMIT desk.told(StudyView::tr("Saved as %1").arg(path));
            else
                Q_EMIT desk.noticed(
                    StudyView::tr("The report could not be saved as %1: %2").arg(path, fault));
        });
}

} // namespace sieve::app
