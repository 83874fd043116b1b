#include "app/sift/scatter_lens.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/parts/scatter_picture.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>

namespace sieve::app {

ScatterLens::ScatterLens(Desk& desk)
    : Lens(desk),
      asker_(this), figures_{new ExpressionEdit, new ExpressionEdit, new ExpressionEdit},
      picture_(new ScatterPicture)
{
    auto* head = new QHBoxLayout;
    const QString names[] = {tr("Across"), tr("Up"), tr("Size")};
    const char* initial[] = {"week_change", "strength_126", "market_cap"};
    for (std::size_t i = 0; i < figures_.size(); ++i) {
        auto* label = new QLabel(names[i]);
        setTone(label, Tone::Soft);
        const auto take = [this, i, first = QString(QLatin1String(initial[i]))] {
            const std::string kept = desk_.settings().value("sift.scatter." + std::to_string(i));
            figures_[i]->setText(kept.empty() ? first : text(kept));
        };
        take();
        connect(&desk_.work(), &Workbench::loaded, this,
                take); // the lens may be there before the library
        figures_[i]->setProperty("quiet", false);
        figures_[i]->setAccessibleName(names[i]);
        head->addWidget(label);
        head->addWidget(figures_[i], 1);
        connect(figures_[i], &QLineEdit::editingFinished, this, [this, i] {
            desk_.settings().set("sift.scatter." + std::to_string(i), utf8(figures_[i]->text()));
            ask();
        });
    }
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addLayout(head);
    layout->addWidget(picture_, 1);
    connect(picture_, &ScatterPicture::chosen, &desk_.focus(), &Focus::select);
    connect(picture_, &ScatterPicture::boundWanted, this, &Lens::boundWanted);
    connect(picture_, &ScatterPicture::surrounded, this,
            [this](const std::vector<std::size_t>& stocks) {
                std::vector<std::string> symbols;
                for (const std::size_t stock : stocks)
                    symbols.push_back(desk_.market().data().instrument(stock).symbol);
                Q_EMIT trayWanted(symbols);
            });
    connect(&desk_.focus(), &Focus::selectionChanged, this,
            [this] { picture_->setChosen(desk_.focus().selected()); });
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
}

void ScatterLens::show(const SiftedPtr& sifted)
{
    sifted_ = sifted;
    ask();
}

void ScatterLens::ask()
{
    if (!sifted_)
        return;
    asker_.ask(
        [book = desk_.work().nameBook(), sifted = sifted_,
         texts =
             std::array{utf8(figures_[0]->text().trimmed()), utf8(figures_[1]->text().trimmed()),
                        utf8(figures_[2]->text().trimmed())}](const Progress& progress) {
            return std::make_shared<const screens::Scatter>(screens::scatterOf(
                sifted->run, texts, book->names(), *sifted->evaluator, progress));
        },
        [this](const std::shared_ptr<const screens::Scatter>& scatter) {
            for (std::size_t i = 0; i < figures_.size(); ++i)
                figures_[i]->setFault(scatter->axes[i].column.error);
            picture_->show(scatter, sifted_->market);
            picture_->setChosen(desk_.focus().selected());
        });
}

} // namespace sieve::app
