#include "app/desk/market_reader.h"

#include "app/desk/desk.h"
#include "app/desk/field_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/workbench.h"

#include <algorithm>

namespace sieve::app {

MarketReader::MarketReader(Desk& desk)
    : QObject(&desk), desk_(desk), rules_(this), groupsAsker_(this)
{
    connect(&desk_.market(), &OpenMarket::opened, this, [this] {
        reading_.reset();
        groups_.reset();
        Q_EMIT changed(); // nothing of the former market is to be seen
        read();
        readGroups();
    });
    connect(&desk_.work(), &Workbench::marketBookChanged, this, &MarketReader::read);
    connect(&desk_.screenShelf(), &ScreenShelf::changed, this, &MarketReader::readAgainIfNamed);
    connect(&desk_.fieldShelf(), &FieldShelf::changed, this, &MarketReader::readAgainIfNamed);
    connect(&desk_.work(), &Workbench::listsChanged, this, &MarketReader::readAgainIfNamed);
    for (Asker* asker : {&rules_, &groupsAsker_})
        connect(asker, &Asker::failed, this, &MarketReader::failed);
}

void MarketReader::read()
{
    if (!desk_.market().isOpen())
        return;
    rules_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(),
         book = *desk_.work().now().marketBook](const Progress& progress) {
            return std::make_shared<const conditions::Reading>(
                conditions::readMarket(*evaluator, names->names(), book, progress));
        },
        [this](const std::shared_ptr<const conditions::Reading>& reading) {
            reading_ = reading;
            Q_EMIT changed();
        });
}

void MarketReader::readGroups()
{
    groupsAsker_.ask(
        [evaluator = desk_.market().evaluator()](const Progress& progress) {
            return std::make_shared<const conditions::Groups>(
                conditions::readGroups(*evaluator, progress));
        },
        [this](const std::shared_ptr<const conditions::Groups>& groups) {
            groups_ = groups;
            Q_EMIT changed();
        });
}

/// A rule may ask for a screen, a list or an own field of the person.
void MarketReader::readAgainIfNamed()
{
    const conditions::MarketBook& book = *desk_.work().now().marketBook;
    const bool namesField = std::ranges::any_of(
        desk_.fieldShelf().all()->fields(), [&book](const language::Field& field) {
            return names(book, language::Renaming::What::Field, field.name);
        });
    const std::string texts = conditions::toToml(book);
    if (namesField || texts.find("passes(") != texts.npos || texts.find("on_list(") != texts.npos)
        read();
}

} // namespace sieve::app
