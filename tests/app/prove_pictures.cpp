#include "tests/app/opened.h"
#include "tests/app/pictures.h"

#include "app/parts/actions.h"
#include "app/parts/expression_edit.h"
#include "app/prove/answer_model.h"
#include "app/prove/followed_view.h"
#include "app/prove/kept_view.h"
#include "app/prove/rule_form.h"
#include "app/prove/rule_view.h"
#include "app/prove/standings_view.h"
#include "app/prove/step_fields.h"

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QPushButton>
#include <QTabWidget>
#include <QTableView>

// Prove: empty, each answer with strong and with weak evidence, small.

namespace sieve::test {

namespace {

void askNow(const WindowBench& bench)
{
    app::findAction(*bench.window, app::ActionId::AskStudy)->trigger();
    bench.settle();
}

void askFollowed(const WindowBench& bench, const char* condition)
{
    app::findAction(*bench.window, app::ActionId::ShowFollowed)->trigger();
    bench.find<app::ExpressionEdit>(QStringLiteral("Condition"))
        ->setText(QString::fromUtf8(condition));
    askNow(bench);
}

void askStandings(const WindowBench& bench)
{
    app::findAction(*bench.window, app::ActionId::ShowStandings)->trigger();
    askNow(bench);
}

void askRule(const WindowBench& bench)
{
    app::findAction(*bench.window, app::ActionId::ShowByRule)->trigger();
    for (auto* line :
         bench.window->findChild<app::RuleView*>()->findChildren<app::ExpressionEdit*>()) {
        if (line->accessibleName() == QStringLiteral("Condition"))
            line->setText(QStringLiteral("close > 5"));
        if (line->accessibleName() == QStringLiteral("Ranked by"))
            line->setText(QStringLiteral("change(close, 126)"));
        if (line->accessibleName() == QStringLiteral("While the market"))
            line->setText(QStringLiteral("close > sma(close, 150)"));
    }
    askNow(bench);
}

constexpr const char* newHigh =
    "close > highest(prior(close), 250) and volume > 1.5 * sma(volume, 50)";

/// The tabs of a view.
template <class View> void showTab(const WindowBench& bench, int tab)
{
    bench.window->findChild<View*>()->template findChild<QTabWidget*>()->setCurrentIndex(tab);
    bench.settle();
}

/// The middle of the market's days.
template <class View> void setAside(const WindowBench& bench)
{
    for (auto* box : bench.window->findChild<View*>()->template findChildren<QDateEdit*>())
        if (box->accessibleName() == QStringLiteral("Set aside from"))
            box->setDate(
                box->minimumDate().addDays(box->minimumDate().daysTo(box->maximumDate()) / 2));
}

/// A rule of several steps with a day that is set aside, and the same while it is asked.
void takeSteps(const WindowBench& bench, const QDir& folder)
{
    auto& view = *bench.window->findChild<app::RuleView*>();
    auto* form = view.findChild<app::RuleForm*>();
    auto* cash = form->addStep();
    for (auto* box : cash->findChildren<QCheckBox*>())
        box->setChecked(box->text().contains(QStringLiteral("cash")));
    setAside<app::RuleView>(bench);
    askNow(bench);
    showTab<app::RuleView>(bench, 0);
    take(bench, folder, "prove_rule_steps");
    app::findAction(*bench.window, app::ActionId::AskStudy)->trigger();
    const QImage running = bench.window->grab().toImage();
    running.save(folder.filePath(QStringLiteral("prove_running.png")));
    bench.settle();
    for (auto* button : cash->findChildren<QPushButton*>())
        if (button->text() == QStringLiteral("Take away"))
            button->click();
}

} // namespace

void takeProved(const QDir& folder)
{
    const WindowBench bench(std::filesystem::path(), wholeDemoDataset());
    bench.go("prove");
    askFollowed(bench, newHigh);
    take(bench, folder, "prove");
    askStandings(bench);
    take(bench, folder, "prove_standings");
    askRule(bench);
    showTab<app::RuleView>(bench, 1);
    take(bench, folder, "prove_rule");
}

void takeProve(const QDir& folder)
{
    const WindowBench bench(std::filesystem::path(), wholeDemoDataset());
    bench.go("prove");
    take(bench, folder, "prove_empty");
    askFollowed(bench, newHigh);
    take(bench, folder, "prove_followed");
    showTab<app::FollowedView>(bench, 1);
    take(bench, folder, "prove_followed_cases");
    askFollowed(bench, "change(close, 63) > 15% and rsi(close, 14) < 60 and close > 10");
    showTab<app::FollowedView>(bench, 2);
    take(bench, folder, "prove_neighbours");
    askFollowed(bench, "rsi(close, 14) < 8");
    take(bench, folder, "prove_followed_weak");
    setAside<app::FollowedView>(bench);
    showTab<app::FollowedView>(bench, 0);
    bench.find<QComboBox>(QStringLiteral("Told apart by"))
        ->setCurrentText(QStringLiteral("the day set aside"));
    askFollowed(bench, newHigh);
    take(bench, folder, "prove_followed_aside");
    askStandings(bench);
    take(bench, folder, "prove_standings");
    showTab<app::StandingsView>(bench, 2);
    take(bench, folder, "prove_standings_stocks");
    showTab<app::StandingsView>(bench, 4);
    take(bench, folder, "prove_standings_together");
    askRule(bench);
    take(bench, folder, "prove_rule");
    showTab<app::RuleView>(bench, 2);
    take(bench, folder, "prove_rule_trades");
    takeSteps(bench, folder);
    const auto keep = [&] { app::findAction(*bench.window, app::ActionId::KeepAnswer)->trigger(); };
    keep();
    QFile::remove(folder.filePath(QStringLiteral("prove_report.pdf"))); // nobody is there to agree
    bench.activate();
    answerNext<QFileDialog>(bench, [&](QFileDialog& dialog) {
        choose(dialog, folder.filePath(QStringLiteral("prove_report.pdf")).toStdString());
    });
    app::findAction(*bench.window, app::ActionId::SaveAnswer)->trigger();
    bench.settle();
    auto* stop = bench.window->findChild<app::RuleView*>()->findChild<QDoubleSpinBox*>();
    for (auto* box : bench.window->findChild<app::RuleView*>()->findChildren<QDoubleSpinBox*>())
        if (box->accessibleName() == QStringLiteral("Stop"))
            stop = box;
    stop->setValue(12.0);
    askNow(bench);
    keep();
    app::findAction(*bench.window, app::ActionId::ShowFollowed)->trigger();
    keep();
    app::findAction(*bench.window, app::ActionId::ShowKept)->trigger();
    auto* kept = bench.window->findChild<app::KeptView*>();
    auto* table = kept->findChild<QTableView*>();
    app::chooseRow(table, 1);
    bench.settle();
    take(bench, folder, "prove_kept");
    app::alsoChooseRow(table, 2);
    showTab<app::KeptView>(bench, 1);
    take(bench, folder, "prove_kept_two");
    showTab<app::KeptView>(bench, 2);
    take(bench, folder, "prove_kept_differs");
    app::findAction(*bench.window, app::ActionId::ShowByRule)->trigger();
    bench.window->resize(1024, 700);
    showTab<app::RuleView>(bench, 1);
    take(bench, folder, "prove_rule_small");
    askStandings(bench);
    take(bench, folder, "prove_standings_small");
}

} // namespace sieve::test
