#include "app/sift/out_and_in.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "app/sift/paste_dialog.h"
#include "core/storage/file_aside.h"
#include "core/watchlists/stocks.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QFileDialog>
#include <QInputDialog>
#include <algorithm>
#include <fmt/format.h>

namespace sieve::app {

namespace {

constexpr const char* symbolsKind = "txt";

void writeResults(const std::filesystem::path& path, const QString& kind, const Sifted& sifted)
{
    const exports::Sheet sheet = screens::sheetOf(*sifted.table, sifted.market->texts());
    if (kind == QLatin1String("xlsx"))
        writeWorkbook(path, sheet);
    else if (kind == QLatin1String("csv"))
        storage::writeWhole(path, toCsv(sheet));
    else if (kind == QLatin1String("json"))
        storage::writeWhole(path, toJson(sheet));
    else
        storage::writeWhole(path, fmt::format("{}\n", fmt::join(symbolsOf(sifted), "\n")));
}

} // namespace

std::vector<std::string> symbolsOf(const Sifted& sifted)
{
    std::vector<std::string> symbols;
    if (sifted.table)
        for (const std::size_t stock : sifted.table->rows)
            symbols.push_back(sifted.market->instrument(stock).symbol);
    return symbols;
}

OutAndIn::OutAndIn(Desk& desk, QWidget* place)
    : QMenu(place), desk_(desk), saver_(this, Asker::About::Else)
{
    const auto add = [this, place](ActionId id, const std::function<void()>& act) {
        addAction(makeAction(place, id, act));
    };
    add(ActionId::CopySymbols, [this] { copySymbols(); });
    add(ActionId::CopyResults, [this] { copyTable(); });
    addSeparator();
    add(ActionId::SaveWorkbook, [this] { save(QStringLiteral("xlsx")); });
    add(ActionId::SaveCsv, [this] { save(QStringLiteral("csv")); });
    add(ActionId::SaveJson, [this] { save(QStringLiteral("json")); });
    add(ActionId::SaveSymbols, [this] { save(QLatin1String(symbolsKind)); });
    addSeparator();
    add(ActionId::SymbolsFromText, [this] { importText(QApplication::clipboard()->text()); });
    connect(&saver_, &Asker::failed, &desk_, &Desk::noticed);
}

void OutAndIn::copySymbols()
{
    QApplication::clipboard()->setText(
        text(fmt::format("{}", fmt::join(symbolsOf(*sifted_), "\n"))));
}

void OutAndIn::copyTable()
{
    if (sifted_->table)
        QApplication::clipboard()->setText(
            text(toTabs(screens::sheetOf(*sifted_->table, sifted_->market->texts()))));
}

void OutAndIn::save(const QString& kind)
{
    if (!sifted_->table)
        return;
    const QString file =
        QFileDialog::getSaveFileName(parentWidget(), tr("Save the results"),
                                     text(sifted_->screen.name) + QLatin1Char('.') + kind,
                                     tr("%1 files (*.%2)").arg(kind.toUpper(), kind));
    if (file.isEmpty())
        return;
    saver_.ask(
        [sifted = sifted_, kind, path = std::filesystem::path(utf8(file))](const Progress&) {
            writeResults(path, kind, *sifted);
            return path;
        },
        [this](const std::filesystem::path& path) {
            Q_EMIT desk_.told(tr("Saved as %1").arg(text(path.string())));
        });
}

void OutAndIn::importText(const QString& typed)
{
    if (!desk_.market().isOpen())
        return;
    PasteDialog dialog(desk_, typed, parentWidget());
    if (dialog.exec() != QDialog::Accepted)
        return;
    const std::vector<std::string> symbols = dialog.symbols();
    switch (dialog.use()) {
    case PasteDialog::Use::Tray:
        Q_EMIT trayWanted(symbols);
        return;
    case PasteDialog::Use::Universe:
        desk_.work().edit(tr("Take pasted symbols as universe"), [&symbols](Work& work) {
            work.screen.edit().universe =
                fmt::format("symbol in (\"{}\")", fmt::join(symbols, "\", \""));
        });
        return;
    case PasteDialog::Use::List:
        addToList(symbols);
    }
}

void OutAndIn::addToList(const std::vector<std::string>& symbols)
{
    QStringList names;
    for (const auto& list : library::listsByHand(desk_.work().now()))
        names << text(list->name);
    bool isAccepted = false;
    const QString name =
        QInputDialog::getItem(parentWidget(), tr("Onto a list"),
                              tr("Which, or the name of a new one:"), names, 0, true, &isAccepted)
            .trimmed();
    if (!isAccepted || name.isEmpty())
        return;
    const auto& lists = desk_.work().now().lists;
    const auto known =
        std::ranges::find(lists, utf8(name), [](const auto& each) { return each->name; });
    if (known != lists.end() && (*known)->isKeptByRule())
        return Q_EMIT desk_.noticed(
            tr("“%1” is kept by a screen; nothing was put onto it.").arg(name));
    desk_.work().edit(tr("Put %1 onto %2").arg(symbols.size()).arg(name), [&](Work& work) {
        auto list = std::ranges::find_if(
            work.lists, [&](const auto& each) { return each->name == utf8(name); });
        if (list == work.lists.end())
            list = work.lists.insert(
                list, watchlists::Watchlist{desk_.work().newId(), utf8(name), {}, {}});
        std::vector<std::size_t> stocks;
        for (const std::string& symbol : symbols)
            if (const auto stock = desk_.market().data().find(symbol))
                stocks.push_back(*stock);
        putOnto(list->edit(), desk_.market().data(), stocks, desk_.focus().day(), "",
                utf8(tr("pasted text")));
    });
}

} // namespace sieve::app
