#include "app/weigh/peers_scatter_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/parts/scatter_picture.h"
#include "core/market/as_of.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>

namespace sieve::app {

PeersScatterDialog::PeersScatterDialog(Desk& desk, std::size_t stock,
                                       std::vector<std::size_t> peers, Day day, QWidget* parent)
    : QDialog(parent), desk_(desk), asker_(this), evaluator_(desk.market().evaluator()),
      stock_(stock), stocks_(std::move(peers)),
      day_(day), figures_{new ExpressionEdit, new ExpressionEdit, new ExpressionEdit},
      picture_(new ScatterPicture)
{
    const market::Market& market = evaluator_->market();
    setWindowTitle(
        tr("%1 and its peers").arg(text(market::symbolOn(market.instrument(stock), day))));
    stocks_.push_back(stock);
    auto* head = new QHBoxLayout;
    const QString names[] = {tr("Across"), tr("Up"), tr("Size")};
    const char* initial[] = {"revenue_growth", "operating_margin", "market_cap"};
    for (std::size_t i = 0; i < figures_.size(); ++i) {
        const std::string key = "weigh.scatter." + std::to_string(i);
        const std::string kept = desk_.settings().value(key);
        auto* label = new QLabel(names[i]);
        setTone(label, Tone::Soft);
        figures_[i]->setText(kept.empty() ? QLatin1String(initial[i]) : text(kept));
        figures_[i]->setProperty("quiet", false);
        figures_[i]->setAccessibleName(names[i]);
        head->addWidget(label);
        head->addWidget(figures_[i], 1);
        connect(figures_[i], &QLineEdit::editingFinished, this, [this, i, key] {
            desk_.settings().set(key, utf8(figures_[i]->text()));
            ask();
        });
    }
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(head);
    layout->addWidget(picture_, 1);
    resize(820, 560);
    connect(picture_, &ScatterPicture::chosen, &desk_.focus(), &Focus::select);
    connect(&desk_.focus(), &Focus::selectionChanged, this,
            [this] { picture_->setChosen(desk_.focus().selected()); });
    connect(&desk_.market(), &OpenMarket::opened, this, &QDialog::close);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    ask();
}

PeersScatterDialog::~PeersScatterDialog()
{
    for (ExpressionEdit* figure : figures_) // it loses the focus with the window, and asks no more
        figure->disconnect(this);
}

void PeersScatterDialog::ask()
{
    screens::ScreenRun run; // the peers as its universe, the stock as what passes
    run.day = day_;
    run.stocks = stocks_;
    run.matches = {stock_};
    asker_.ask(
        [run = std::move(run), evaluator = evaluator_, book = desk_.work().nameBook(),
         texts =
             std::array{utf8(figures_[0]->text().trimmed()), utf8(figures_[1]->text().trimmed()),
                        utf8(figures_[2]->text().trimmed())}](const Progress& progress) {
            return std::make_shared<const screens::Scatter>(
                screens::scatterOf(run, texts, book->names(), *evaluator, progress));
        },
        [this](const std::shared_ptr<const screens::Scatter>& scatter) {
            for (std::size_t i = 0; i < figures_.size(); ++i)
                figures_[i]->setFault(scatter->axes[i].column.error);
            picture_->show(scatter, evaluator_->marketPtr());
            picture_->setChosen(stock_);
        });
}

} // namespace sieve::app
