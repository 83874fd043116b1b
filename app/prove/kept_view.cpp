#include "app/prove/kept_view.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/actions.h"
#include "app/parts/empty_page.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/prove/curve_picture.h"
#include "app/prove/study_view.h"
#include "core/studies/keeping.h"

#include <QCoreApplication>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSplitter>
#include <QTabWidget>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using studies::KeptRun;

namespace {

/// More curves are not told apart by eye.
constexpr std::size_t mostCurves = 3;

AnswerModel::Cell cellOf(const studies::KeptFigure& figure)
{
    const int decimals = figure.unit == Unit::Percent ? 1 : figure.unit == Unit::Ratio ? 2 : 0;
    return {isMissing(figure.value) ? QString(missingText)
                                    : numberText(figure.value, figure.unit, decimals),
            figure.value};
}

/// The figure by which runs of a kind are known.
const studies::KeptFigure* leadingFigure(const KeptRun& run)
{
    const studies::KeptFigure* last = nullptr; // of the longest horizon
    if (run.kind != KeptRun::Kind::Followed)
        return run.figures.empty() ? nullptr : &run.figures.front();
    for (const studies::KeptFigure& figure : run.figures)
        if (figure.name.ends_with("difference"))
            last = &figure;
    return last;
}

QString nameOf(const KeptRun& run)
{
    return text(titleOf(run));
}

/// Draws the curves of some runs, each under its name.
void showCurvesOf(std::span<const Shared<KeptRun>> runs, CurvePicture& picture)
{
    constexpr CurvePicture::Tint tints[] = {CurvePicture::Tint::Own, CurvePicture::Tint::Other,
                                            CurvePicture::Tint::Benchmark};
    std::vector<const KeptRun*> drawn;
    for (const auto& run : runs)
        if (!run->curve.empty())
            drawn.push_back(&*run);
    studies::JoinedCurves joined = studies::joinedCurves(drawn);
    std::vector<CurvePicture::Curve> curves;
    for (std::size_t i = 0; i < drawn.size(); ++i)
        curves.push_back(
            {nameOf(*drawn[i]), std::move(joined.worths[i]), tints[i % std::size(tints)]});
    picture.show(std::move(joined.days), std::move(curves));
}

} // namespace

KeptView::KeptView(Desk& desk)
    : desk_(desk), asker_(this), saver_(this, Asker::About::Else), empty_(new EmptyPage),
      inside_(new QWidget), model_(new AnswerModel(this)),
      table_(answerTable(model_, tr("Kept answers"))), told_(new QLabel), cautions_(new QLabel),
      picture_(new CurvePicture), figuresModel_(new AnswerModel(this)),
      figuresTable_(answerTable(figuresModel_, tr("Figures"))),
      differsModel_(new AnswerModel(this)),
      differsTable_(answerTable(differsModel_, tr("What differs"))), notes_(new QPlainTextEdit)
{
    empty_->setTexts(tr("Nothing is kept yet"),
                     tr("An answer that is kept holds its question, its data and its seed: it can "
                        "be asked again, and stand beside others."),
                     {});
    prepareTable();
    auto* split = new QSplitter(Qt::Vertical);
    remember(split, "prove.kept_split");
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(table_);
    split->addWidget(makeDetails());
    split->setSizes({220, 420});
    auto* insideLayout = new QVBoxLayout(inside_);
    insideLayout->setContentsMargins(0, 0, 0, 0);
    insideLayout->addWidget(split);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(empty_);
    layout->addWidget(inside_);
    for (Asker* asker : {&asker_, &saver_})
        connect(asker, &Asker::failed, &desk, &Desk::noticed);
    connect(&desk.work(), &Workbench::runsChanged, this, &KeptView::showRuns);
    showRuns();
}

void KeptView::prepareTable()
{
    table_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this,
            &KeptView::showChosen);
    connect(table_, &QTableView::activated, this, [this] {
        if (const auto runs = chosen(); runs.size() == 1)
            Q_EMIT questionWanted(*runs.front());
    });
}

QWidget* KeptView::makeDetails()
{
    told_->setWordWrap(true);
    told_->setFont(fontOf(Weight::Medium, 1.05));
    cautions_->setWordWrap(true);
    setTone(cautions_, Tone::Caution);
    notes_->setAccessibleName(tr("Notes"));
    notes_->setPlaceholderText(tr("What you think of it"));
    notes_->installEventFilter(this);
    auto* row = new QHBoxLayout;
    row->addWidget(told_, 1);
    const auto button = [&](const QString& title, const QString& tip, auto act) {
        auto* made = new QPushButton(title);
        made->setToolTip(tip);
        connect(made, &QPushButton::clicked, this, act);
        row->addWidget(made, 0, Qt::AlignTop);
        return made;
    };
    ofOne_ = {button(tr("Ask again"), tr("As known on its day; is it the same, to the last bit?"),
                     [this] { askAgain(); }),
              button(tr("To the question"), tr("Put its question into the fields (Return)"),
                     [this] {
                         if (const auto runs = chosen(); runs.size() == 1)
                             Q_EMIT questionWanted(*runs.front());
                     }),
              button(tr("Rename…"), {}, [this] { rename(); }),
              button(tr("Save…"), tipOf(ActionId::SaveAnswer), [this] { save(); })};
    remove_ = button(tr("Remove"), tr("It can be brought back by undo"), [this] { remove(); });
    auto* tabs = new QTabWidget;
    tabs->setDocumentMode(true);
    tabs->addTab(figuresTable_, tr("Figures"));
    tabs->addTab(picture_, tr("Day by day"));
    tabs->addTab(differsTable_, tr("What differs"));
    tabs->addTab(notes_, tr("Notes"));
    remember(tabs, "prove.kept_tab");
    auto* details = new QWidget;
    auto* layout = new QVBoxLayout(details);
    layout->setContentsMargins(0, 4, 0, 0);
    layout->addLayout(row);
    layout->addWidget(cautions_);
    layout->addWidget(tabs, 1);
    return details;
}

bool KeptView::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == notes_ && event->type() == QEvent::FocusOut)
        keepNotes();
    return QWidget::eventFilter(watched, event);
}

void KeptView::hideEvent(QHideEvent* event)
{
    keepNotes();
    QWidget::hideEvent(event);
}

void KeptView::refresh()
{
    showRuns();
}

std::vector<KeptView::Run> KeptView::chosen() const
{
    std::vector<Run> runs;
    for (const Run& run : runs_)
        if (std::ranges::find(shown_, run->id) != shown_.end())
            runs.push_back(run);
    return runs;
}

void KeptView::showRuns()
{
    const auto& all = *desk_.work().now().runs;
    if (std::ranges::equal(runs_, std::vector<Run>(all.rbegin(), all.rend())) && !all.empty())
        return;
    const std::vector<std::int64_t> before = shown_;
    runs_.assign(all.rbegin(), all.rend());
    empty_->setVisible(runs_.empty());
    inside_->setVisible(!runs_.empty());
    model_->show({{tr("Name"), {}, false},
                  {tr("Question"), {}, false},
                  {tr("Main figure"), {}, false},
                  {tr("Value")},
                  {tr("As known on")},
                  {tr("Asked on")},
                  {tr("Market"), {}, false},
                  {tr("Notes"), {}, false}},
                 runs_.size(), [runs = runs_](std::size_t row, std::size_t column) {
                     const KeptRun& run = *runs[row];
                     const studies::KeptFigure* figure = leadingFigure(run);
                     switch (column) {
                     case 0:
                         return AnswerModel::Cell{nameOf(run)};
                     case 1:
                         return AnswerModel::Cell{text(kindWords(run.kind))};
                     case 2:
                         return AnswerModel::Cell{figure ? text(figure->name) : QString()};
                     case 3:
                         return figure ? cellOf(*figure) : AnswerModel::Cell{};
                     case 4:
                         return dayCell(run.day);
                     case 5:
                         return dayCell(run.askedOn);
                     case 6:
                         return AnswerModel::Cell{text(run.market)};
                     default:
                         return AnswerModel::Cell{text(run.notes).section(u'\n', 0, 0)};
                     }
                 });
    bool isChosen = false;
    for (std::size_t row = 0; row < runs_.size(); ++row)
        if (std::ranges::find(before, runs_[row]->id) != before.end()) {
            alsoChooseRow(table_, static_cast<int>(row));
            isChosen = true;
        }
    if (!isChosen && !runs_.empty())
        chooseRow(table_, 0);
    showChosen();
}

void KeptView::showChosen()
{
    keepNotes();
    shown_.clear();
    for (const int row : chosenRows(table_))
        if (static_cast<std::size_t>(row) < runs_.size())
            shown_.push_back(runs_[static_cast<std::size_t>(row)]->id);
    const std::vector<Run> runs = chosen();
    const bool isOne = runs.size() == 1;
    for (QPushButton* each : ofOne_)
        each->setEnabled(isOne);
    remove_->setEnabled(!runs.empty());
    notes_->setEnabled(isOne);
    QStringList weaknesses;
    if (isOne)
        for (const std::string& words : runs.front()->cautions)
            weaknesses << QStringLiteral("⚠ ") + text(words);
    constexpr qsizetype mostLines = 4; // an answer of several horizons has many
    if (const qsizetype more = weaknesses.size() - mostLines; more > 0) {
        weaknesses.resize(mostLines);
        weaknesses << tr("and %1 more, in its report").arg(more);
    }
    cautions_->setText(weaknesses.join(QLatin1Char('\n')));
    cautions_->setVisible(!weaknesses.isEmpty());
    told_->setText(isOne          ? text(runs.front()->sentence)
                   : runs.empty() ? tr("Choose one, or several to stand beside each other.")
                                  : tr("%1 answers beside each other").arg(runs.size()));
    {
        const QSignalBlocker quiet(notes_);
        notes_->setPlainText(isOne ? text(runs.front()->notes) : QString());
    }
    showFigures();
    showCurves();
}

void KeptView::showFigures()
{
    const std::vector<Run> runs = chosen();
    std::vector<const KeptRun*> plain;
    for (const Run& run : runs)
        plain.push_back(&*run);
    const auto told = std::make_shared<const studies::KeptComparison>(studies::compared(plain));
    std::vector<AnswerModel::Column> figures{{tr("Figure"), {}, false}};
    std::vector<AnswerModel::Column> differs{{tr("What was asked"), {}, false}};
    for (const Run& run : runs) {
        figures.push_back({nameOf(*run)});
        differs.push_back({nameOf(*run), {}, false});
    }
    figuresModel_->show(std::move(figures), told->figures.size(),
                        [told](std::size_t row, std::size_t column) {
                            const auto& figure = told->figures[row];
                            if (column == 0)
                                return AnswerModel::Cell{text(figure.name)};
                            return cellOf({{}, figure.unit, figure.of[column - 1]});
                        });
    differsModel_->show(
        std::move(differs), told->differs.size(), [told](std::size_t row, std::size_t column) {
            const auto& line = told->differs[row];
            return AnswerModel::Cell{text(column == 0 ? line.name : line.of[column - 1])};
        });
}

void KeptView::showCurves()
{
    std::vector<Run> runs;
    for (const Run& run : chosen())
        if (!run->curve.empty() && runs.size() < mostCurves)
            runs.push_back(run);
    showCurvesOf(runs, *picture_);
}

void KeptView::askAgain()
{
    const std::vector<Run> runs = chosen();
    if (runs.size() != 1 || !desk_.market().isOpen())
        return;
    const Run then = runs.front();
    told_->setText(tr("Asking again…"));
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(),
         then](const Progress& progress) -> Result<std::shared_ptr<const KeptRun>> {
            auto now = studies::askedAgain(*then, book->names(), evaluator->marketPtr(), progress);
            if (!now)
                return now.error();
            return std::make_shared<const KeptRun>(*std::move(now));
        },
        [this, then,
         data = desk_.market().identity()](const Result<std::shared_ptr<const KeptRun>>& answer) {
            if (shown_ != std::vector{then->id})
                return; // another one was chosen meanwhile
            if (!answer)
                return told_->setText(text(sentence(answer.error())));
            KeptRun now = **answer;
            now.data = data;
            now.program = utf8(QCoreApplication::applicationVersion());
            takeAgain(then, now);
        });
}

void KeptView::takeAgain(const Run& then, const KeptRun& now)
{
    const std::vector<std::string> why = studies::whyOther(*then, now);
    if (why.empty())
        return told_->setText(
            tr("The same came out, to the last bit. %1").arg(text(then->sentence)));
    QStringList words{tr("Another answer came out.")};
    for (const std::string& each : why)
        words << text(each);
    told_->setText(words.join(QLatin1Char(' ')));
    const KeptRun* both[] = {&*then, &now};
    const auto told = std::make_shared<const studies::KeptComparison>(studies::compared(both));
    figuresModel_->show({{tr("Figure"), {}, false}, {tr("Then")}, {tr("Now")}},
                        told->figures.size(), [told](std::size_t row, std::size_t column) {
                            const auto& figure = told->figures[row];
                            if (column == 0)
                                return AnswerModel::Cell{text(figure.name)};
                            return cellOf({{}, figure.unit, figure.of[column - 1]});
                        });
}

void KeptView::rename()
{
    const std::vector<Run> runs = chosen();
    if (runs.size() != 1)
        return;
    bool isAccepted = false;
    const QString name =
        QInputDialog::getText(this, tr("Rename the answer"), tr("Name"), QLineEdit::Normal,
                              nameOf(*runs.front()), &isAccepted)
            .trimmed();
    if (!isAccepted || name.isEmpty())
        return;
    KeptRun run = *runs.front();
    run.name = utf8(name);
    desk_.work().edit(tr("Rename an answer to “%1”").arg(name),
                      [&run](Work& work) { library::keepRun(work, run); });
}

void KeptView::remove()
{
    const std::vector<Run> runs = chosen();
    if (runs.empty())
        return;
    const QString what = runs.size() == 1 ? tr("Remove the answer “%1”").arg(nameOf(*runs.front()))
                                          : tr("Remove %1 answers").arg(runs.size());
    desk_.work().edit(what, [&runs](Work& work) {
        for (const Run& run : runs)
            library::removeRun(work, run->id);
    });
}

/// Those of the answer that is shown, where they were changed.
void KeptView::keepNotes()
{
    if (shown_.size() != 1 || !notes_->document()->isModified())
        return;
    notes_->document()->setModified(false);
    const KeptRun* known = desk_.work().now().findRun(shown_.front());
    const std::string notes = utf8(notes_->toPlainText());
    if (!known || known->notes == notes)
        return;
    KeptRun run = *known;
    run.notes = notes;
    desk_.work().edit(tr("Note on “%1”").arg(nameOf(run)),
                      [&run](Work& work) { library::keepRun(work, run); });
}

void KeptView::save()
{
    keepNotes();
    const std::vector<Run> runs = chosen();
    if (runs.size() != 1)
        return;
    const KeptRun& run = *runs.front();
    const auto chosen = chooseFile(this, tr("Save the report"), nameOf(run), reportKinds());
    if (!chosen)
        return;
    const OnPaper paper;
    std::vector<studies::ReportPicture> pictures;
    if (!run.curve.empty()) {
        CurvePicture picture;
        showCurvesOf(runs, picture);
        pictures.push_back(pictureOf(tr("Worth day by day"), picture, {reportWidth, 280}));
    }
    saveReport(saver_, desk_, chosen->path, run, pictures,
               [] { return std::vector<studies::ReportTable>(); });
}

} // namespace sieve::app
