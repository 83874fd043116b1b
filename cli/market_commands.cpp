#include "cli/commands.h"

#include "core/intake/market_folder.h"
#include "core/intake/take_in.h"
#include "core/storage/file_aside.h"
#include "core/storage/market_file.h"
#include "demo_market/dataset.h"

#include <fmt/format.h>
#include <sstream>

namespace sieve::cli {

namespace {

/// Names and values as rows of two columns.
Answer pairs(std::vector<std::pair<std::string, Cell>> values)
{
    Answer answer{{"name", "value"}, {}};
    for (auto& [name, value] : values)
        answer.rows.push_back({name, std::move(value)});
    return answer;
}

} // namespace

InputFault::InputFault(const LocatedError& error)
    : std::runtime_error(error.problem + (error.remedy.empty() ? "" : ": " + error.remedy))
{
}

InputFault::InputFault(const LocatedError& error, const std::string& text)
    : std::runtime_error([&] {
          std::istringstream lines(text);
          std::string line;
          for (std::size_t i = 0; i < error.where.line; ++i)
              std::getline(lines, line);
          const std::string mark = std::string(error.where.column - 1, ' ') +
                                   std::string(std::max<std::size_t>(error.where.length, 1), '^');
          return fmt::format("{}\n  {}\n  {}", sentence(error), line, mark);
      }())
{
}

Answer demoData(const Request& request)
{
    const demo_market::DemoMarket market = demo_market::makeMarket(request.seed);
    demo_market::writeDataset(market, request.source);
    return pairs({{"folder", request.source.string()},
                  {"instruments", count(market.records.size())},
                  {"version", std::string(demo_market::generatorVersion)}});
}

Answer intake(const Request& request, const Progress& progress)
{
    intake::TakeIn what{request.source, request.market, {}, request.isUpdate};
    if (!request.mapping.empty()) {
        const std::string text = storage::readWhole(request.mapping);
        Result<intake::PriceLayout> layout = intake::layoutFromToml(text);
        if (!layout)
            throw InputFault(layout.error(), text);
        what.mapping = *std::move(layout);
    }
    const Result<intake::IntakeReport> report = intake::takeIn(what, progress);
    if (!report)
        throw InputFault(report.error());
    return pairs({{"files", count(report->files)},
                  {"rows", count(report->rows)},
                  {"rows_left_out", count(report->rowsLeftOut)},
                  {"findings", count(report->findings.size())}});
}

Answer report(const Request& request)
{
    const Result<intake::IntakeReport> report = intake::reportOf(request.market);
    if (!report)
        throw InputFault(report.error());
    Answer answer{{"file", "line", "column", "what", "why", "done"}, {}};
    for (const intake::Finding& each : report->findings)
        answer.rows.push_back({each.file, each.line == 0 ? Cell() : count(each.line), each.column,
                               each.what, each.why, each.done});
    return answer;
}

Answer info(const Request& request, const Progress& progress)
{
    const Result<market::MarketPtr> opened = storage::openMarket(request.market);
    if (!opened)
        throw InputFault(opened.error());
    const Result<std::uint64_t> bytes = storage::verifyMarket(request.market, progress);
    if (!bytes)
        throw InputFault(bytes.error());
    const market::Market& market = **opened;
    std::size_t bars = 0;
    std::size_t minutes = 0;
    std::size_t delisted = 0;
    std::size_t statements = 0;
    for (std::size_t i = 0; i < market.size(); ++i) {
        bars += market.bars(i).size();
        minutes += market.minuteBars(i).size();
        delisted += market.instrument(i).delistedOn ? 1 : 0;
        statements += market.statements(i).rows().size();
    }
    std::string sources;
    for (const intake::TakenSource& source : intake::sourcesOf(request.market))
        sources += (sources.empty() ? "" : ", ") + source.path.string() +
                   (source.isUpdate ? " (update)" : "");
    return pairs({{"name", market.description().name},
                  {"version", market.description().version},
                  {"currency", market.currency()},
                  {"benchmark", market.description().benchmark},
                  {"sources", sources},
                  {"instruments", count(market.size())},
                  {"delisted", count(delisted)},
                  {"exchanges", count(market.description().exchanges.size())},
                  {"first_session", market.sessions().front().iso()},
                  {"last_session", market.sessions().back().iso()},
                  {"sessions", count(market.sessions().size())},
                  {"daily_bars", count(bars)},
                  {"minute_bars", count(minutes)},
                  {"statement_rows", count(statements)},
                  {"bytes", count(*bytes)}});
}

} // namespace sieve::cli
