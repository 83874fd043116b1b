#include "cli/commands.h"

#include <CLI/CLI.hpp>
#include <csignal>
#include <cstdio>
#include <exception>
#include <fmt/format.h>
#include <functional>
#include <stop_token>
#include <unistd.h>

// wise-sieve-cli: the core from the command line. Ends with 0 when done, 1 when the input was at
// fault or the machine was (the message stands on standard error), 2 on wrong use. See
// wise-sieve-cli.1.

namespace {

using namespace sieve;

std::stop_source stopSource;

void stopOnSignal(int)
{
    stopSource.request_stop(); // takes no lock as long as nobody waits on the token
}

/// On a terminal, one line that is written over; elsewhere nothing.
Progress progressOnTerminal()
{
    if (isatty(STDERR_FILENO) == 0)
        return {stopSource.get_token(), nullptr};
    return {stopSource.get_token(), [last = -1](double fraction, std::string_view what) mutable {
                const int percent = static_cast<int>(fraction * 100.0);
                if (percent == last)
                    return;
                last = percent;
                std::fputs(fmt::format("\r{:3} % {}\033[K", percent, what).c_str(), stderr);
                if (percent >= 100)
                    std::fputs("\r\033[K", stderr);
            }};
}

std::string readsDay(const std::string& text)
{
    return Day::parse(text) ? "" : "'" + text + "' is not a day such as 2025-03-14";
}

class CommandLine {
public:
    CommandLine()
    {
        app_.require_subcommand(1);
        app_.footer(
            "Every answer is CSV, or JSON with --json; figures have 17 digits, what is not "
            "known is an empty cell. Status: 0 done, 1 the input was at fault, 2 wrong use.");
        app_.add_flag("--json", isJson_, "Answer as JSON");
        addMarketCommands();
        addExpressionCommands();
        addStockCommands();
        addStudiesCommands();
        addConditionsCommand();
        addLibraryCommands();
    }

    int run(int count, char** arguments)
    {
        request_.tell = [](const std::string& what) {
            std::fputs(fmt::format("wise-sieve-cli: {}\n", what).c_str(), stderr);
        };
        try {
            app_.parse(count, arguments);
        } catch (const CLI::ParseError& error) {
            return app_.exit(error) == 0 ? 0 : 2;
        }
        try {
            const std::string text = command_();
            const bool isWritten =
                std::fwrite(text.data(), 1, text.size(), stdout) == text.size() &&
                std::fflush(stdout) == 0;
            return isWritten ? 0 : fail("the answer could not be written");
        } catch (const Stopped&) {
            return fail("stopped; nothing was changed");
        } catch (const std::exception& fault) {
            return fail(fault.what());
        }
    }

private:
    static int fail(const char* what)
    {
        std::fputs(fmt::format("wise-sieve-cli: {}\n", what).c_str(), stderr);
        return 1;
    }

    CLI::App* add(const char* name, const char* what, std::function<cli::Answer()> command)
    {
        CLI::App* added = app_.add_subcommand(name, what);
        added->fallthrough(); // --json may stand after the command
        added->callback([this, command = std::move(command)] {
            command_ = [this, command] {
                const cli::Answer answer = command();
                return isJson_ ? exports::toJson(answer) : exports::toCsv(answer);
            };
        });
        return added;
    }
    void addMarket(CLI::App* command)
    {
        command->add_option("--market", request_.market, "Folder of the market")->required();
    }
    void addDay(CLI::App* command, const char* name, std::optional<Day>& day, const char* what)
    {
        command
            ->add_option_function<std::string>(
                name, [&day](const std::string& text) { day = Day::parse(text); }, what)
            ->check(readsDay)
            ->type_name("DAY");
    }
    void addExpressions(CLI::App* command, int most)
    {
        command->add_option("expression", request_.expressions, "Expressions of the language")
            ->required()
            ->expected(1, most);
    }
    void addSymbol(CLI::App* command)
    {
        command->add_option("--symbol", request_.symbol, "Symbol of an instrument")->required();
    }

    void addMarketCommands()
    {
        CLI::App* demo = add("demo-data", "Write the made-up market as an open dataset",
                             [this] { return cli::demoData(request_); });
        demo->add_option("folder", request_.source, "Folder to write")->required();
        demo->add_option("--seed", request_.seed, "Another number makes another market");
        CLI::App* intake =
            add("intake", "Take a dataset, or a folder of price files, into a market",
                [this] { return cli::intake(request_, progressOnTerminal()); });
        intake->add_option("source", request_.source, "Folder or file to read")->required();
        addMarket(intake);
        intake->add_option("--mapping", request_.mapping, "How price files are read, as TOML");
        intake->add_flag("--update", request_.isUpdate, "Add what is new to the market");
        addMarket(add("report", "What the newest intake found wrong",
                      [this] { return cli::report(request_); }));
        addMarket(add("info", "What a market holds, after checking every byte of it",
                      [this] { return cli::info(request_, progressOnTerminal()); }));
    }

    void addExpressionCommands()
    {
        CLI::App* series = add("series", "Values of expressions at every bar of one instrument",
                               [this] { return cli::series(request_); });
        addMarket(series);
        addSymbol(series);
        addExpressions(series, 100);
        addDay(series, "--from", request_.from, "First day shown");
        addDay(series, "--to", request_.to, "Last day known");
        CLI::App* column = add("column", "Values of expressions for every instrument on one day",
                               [this] { return cli::column(request_); });
        addMarket(column);
        addExpressions(column, 100);
        addDay(column, "--as-of", request_.day, "As known on this day");
        CLI::App* screen = add("screen", "Counts of each criterion, and the symbols that pass all",
                               [this] { return cli::screen(request_); });
        addMarket(screen);
        addDay(screen, "--as-of", request_.day, "As known on this day");
        auto* what = screen->add_option_group("screen");
        what->add_option("--text", request_.text, "A condition of the language");
        what->add_option("--file", request_.file, "A screen as TOML")->check(CLI::ExistingFile);
        what->require_option(1);
        screen->add_flag("--table", request_.isTable,
                         "The matches with the screen's columns, instead of its counts");
        CLI::App* daily = add("daily", "How many pass a condition on each day",
                              [this] { return cli::daily(request_, progressOnTerminal()); });
        addMarket(daily);
        daily->add_option("--text", request_.text, "A condition of the language")->required();
        addDay(daily, "--from", request_.from, "First day");
        addDay(daily, "--to", request_.to, "Last day");
        CLI::App* explain = add("explain", "The value of every part of an expression",
                                [this] { return cli::explain(request_); });
        addMarket(explain);
        addSymbol(explain);
        addExpressions(explain, 1);
        addDay(explain, "--as-of", request_.day, "As known on this day");
        CLI::App* fields = add("fields", "The dictionary of fields",
                               [this] { return cli::fields(request_); });
        fields->add_option("--market", request_.market,
                           "Folder of a market: of how many of its stocks each is known");
        addDay(fields, "--as-of", request_.day, "As known on this day");
    }

    void addStockCommands()
    {
        CLI::App* dossier = add("dossier", "All that is known of one stock, as JSON", {});
        dossier->callback([this] {
            command_ = [this] { return cli::dossierText(request_, progressOnTerminal()); };
        });
        CLI::App* value = add("value", "What a share is worth by earnings, dividends, cash and sales",
                              [this] { return cli::value(request_, progressOnTerminal()); });
        for (CLI::App* command : {dossier, value}) {
            addMarket(command);
            addSymbol(command);
            addDay(command, "--as-of", request_.day, "As known on this day");
        }
        CLI::App* occurrences =
            add("occurrences", "What followed each time that a condition began to hold",
                [this] { return cli::occurrences(request_, progressOnTerminal()); });
        addMarket(occurrences);
        occurrences->add_option("--text", request_.text, "A condition of the language")->required();
        occurrences->add_option("--symbol", request_.symbol, "A stock that is told by itself, too");
        addDay(occurrences, "--as-of", request_.day, "As known on this day");
        occurrences->add_flag("--cases", request_.isTable, "Case by case");
        occurrences->add_option("--stop", request_.terms.stop, "Sold so far below, 0.08 is 8 %")
            ->check(CLI::Range(0.0, 1.0));
        occurrences->add_option("--target", request_.terms.target, "Sold so far above")
            ->check(CLI::Range(0.0001, 1000.0));
        occurrences->add_option("--within", request_.terms.within, "Sold after so many bars")
            ->check(CLI::Range(1, 5000));
        dossier->add_option("--part", request_.parts, "Parts of it; without, all")
            ->check(CLI::IsMember(dossier::partKeys()))
            ->expected(1, 20);
        dossier->add_option("--figure", request_.expressions, "Fields or expressions to show")
            ->expected(1, 100);
        dossier->add_flag("--per-share", request_.isPerShare, "Results by the shares there were");
        dossier->add_option("--years", request_.model.years, "Years of growth that are assumed")
            ->check(CLI::Range(1.0, 100.0));
        dossier->add_option("--discount", request_.model.discount, "Discount a year, 0.09 is 9 %")
            ->check(CLI::Range(0.0, 1.0));
        dossier->add_option("--lasting", request_.model.lasting, "Growth a year after those years")
            ->check(CLI::Range(-0.5, 0.5));
    }

    /// What the studies of what followed have in common.
    void addFollowing(CLI::App* command)
    {
        cli::StudiesRequest& asked = request_.studies;
        addMarket(command);
        addDay(command, "--as-of", request_.day, "As known on this day");
        addDay(command, "--from", request_.from, "First day of matches");
        addDay(command, "--to", request_.to, "Last day of matches");
        auto* what = command->add_option_group("question");
        what->add_option("--text", request_.text, "A condition of the language");
        what->add_option("--screen", asked.screens, "Name of a ready screen")->expected(1);
        what->add_option("--file", request_.file, "A study as TOML")->check(CLI::ExistingFile);
        what->require_option(1);
        studies::FollowingQuestion& following = asked.following;
        command->add_option("--universe", request_.group,
                              "Condition: the stocks that are asked, and compared with");
        command->add_option("--after", following.horizons, "Bars after which it is told")
            ->expected(1, static_cast<int>(studies::mostHorizons));
        command->add_flag_callback(
            "--at-close", [&following] { following.boughtAt = studies::BoughtAt::Close; },
            "Bought at the close of the match, not at the next open");
        command->add_flag_callback(
            "--without-dividends",
            [&following] { following.dividends = studies::Dividends::LeftOut; },
            "Changes of the price alone");
        command->add_flag("--every-match", following.isEveryMatch,
                            "Each bar of a run is a case, not its first alone");
        command->add_option("--resamples", following.resamples, "For the intervals")
            ->check(CLI::Range(100, 100000));
        command->add_option("--picks", following.picks, "By chance, on the same days")
            ->check(CLI::Range(0, 100000));
        command->add_option("--seed", following.seed, "Of what is left to chance");
    }
    void addStudiesCommands()
    {
        cli::StudiesRequest& asked = request_.studies;
        CLI::App* measures = add("measures", "Measures of series of daily returns",
                                 [this] { return cli::measures(request_); });
        measures->add_option("file", request_.file, "Table: days, then a column a series")
            ->required()
            ->check(CLI::ExistingFile);
        measures->add_option("--benchmark", asked.benchmark, "Column that others stand beside");
        measures->add_flag("--worths", asked.isWorths, "The columns are worths, not returns");
        measures->add_flag("--curve", asked.isCurve, "Worth and fall, day by day");

        CLI::App* aftermath =
            add("aftermath", "What followed the matches of a screen, beside all stocks",
                [this] { return cli::aftermath(request_, progressOnTerminal()); });
        addFollowing(aftermath);
        CLI::App* neighbours =
            add("neighbours", "What followed, had two limits of a screen stood elsewhere",
                [this] { return cli::neighbours(request_, progressOnTerminal()); });
        addFollowing(neighbours);
        neighbours->add_option("--limits", asked.limits, "Which two, of those that are numbers, from 1")
            ->expected(2);
        neighbours->add_option("--by", asked.by,
                               "year: each tested with the limits that were best before it")
            ->check(CLI::IsMember({"year"}));
        neighbours->add_option("--steps", asked.steps, "Bounds of each")
            ->check(CLI::Range(2, static_cast<int>(studies::mostBounds)));
        aftermath->add_option("--by", asked.by,
                              "year, sector, industry, state, stance, or a figure (fifths)");
        addDay(aftermath, "--split", asked.split, "Told before this day and from it on");
        aftermath->add_flag("--cases", request_.isTable, "Case by case");
        addStandings();
        addPortfolio();
    }
    void addPortfolio()
    {
        CLI::App* portfolio =
            add("portfolio", "A rule as it would have traded, day by day, after costs",
                [this] { return cli::portfolio(request_, progressOnTerminal()); });
        addMarket(portfolio);
        addDay(portfolio, "--as-of", request_.day, "As known on this day");
        portfolio->add_option("file", request_.file, "The rule as TOML")
            ->required()
            ->check(CLI::ExistingFile);
        addDay(portfolio, "--from", request_.from, "First session, in place of the file's");
        addDay(portfolio, "--to", request_.to, "Last session, in place of the file's");
        addDay(portfolio, "--split", request_.studies.split,
               "Measures before this day and from it on");
        portfolio->preparse_callback([this](std::size_t) { request_.show = "measures"; });
        portfolio->add_option("--show", request_.show, "Which part of it")
            ->check(CLI::IsMember({"measures", "curve", "trades", "fills", "months", "stocks"}));
    }
    void addStandings()
    {
        cli::StudiesRequest& asked = request_.studies;
        CLI::App* standings =
            add("standings", "How screens would have done, bought on many days",
                [this] { return cli::standings(request_, progressOnTerminal()); });
        addMarket(standings);
        addDay(standings, "--as-of", request_.day, "As known on this day");
        standings->add_option("--file", request_.file, "A study as TOML")
            ->check(CLI::ExistingFile);
        standings->add_option("--screen", asked.screens, "Names of ready screens; without, all")
            ->expected(1, 500);
        addDay(standings, "--from", request_.from, "First start; without, 250 sessions back");
        addDay(standings, "--to", request_.to, "The end; without, the newest session");
        studies::StandingsTerms& terms = asked.standings;
        standings->add_option("--newest", terms.newest, "Starts of so many sessions before the end")
            ->check(CLI::Range(1, static_cast<int>(studies::mostStarts)));
        standings->add_flag("--one-start", terms.isOneStart, "From the first start alone");
        standings->add_option("--every", terms.every, "Sessions from start to start")
            ->check(CLI::Range(1, 1000));
        standings->add_option("--held", terms.held, "Sold after so many sessions; without, at the end")
            ->check(CLI::Range(1, studies::longestHorizon));
        standings->add_option("--best", terms.best, "The best so many of each screen's ranking")
            ->check(CLI::Range(0, 10000));
        standings->add_option("--weights", terms.weights, "A figure by which money is shared");
        standings->add_flag_callback(
            "--without-dividends", [&terms] { terms.dividends = studies::Dividends::LeftOut; },
            "Gains of the price alone");
        standings->add_option("--picks", terms.picks, "By chance, on the same days")
            ->check(CLI::Range(0, 100000));
        standings->add_option("--seed", terms.seed, "Of what is left to chance");
        standings->add_option("--by", asked.by,
                              "state or stance of the market on the start; health: all screens of "
                              "a side together, start by start")
            ->check(CLI::IsMember({"state", "stance", "health"}));
        standings->add_flag("--starts", request_.isTable, "Start by start");
        standings->add_flag("--stocks", asked.isStocks, "The stocks that were bought, and their gains");
        standings->add_flag("--curve", asked.isCurve, "Day by day");
    }

    void addConditionsCommand()
    {
        CLI::App* market = add("market", "The state of the market: trends, stance, breadth, groups",
                               [this] { return cli::conditions(request_, progressOnTerminal()); });
        addMarket(market);
        addDay(market, "--as-of", request_.day, "As known on this day");
        request_.show = "states";
        market->add_option("--show", request_.show, "Which part of it")
            ->check(CLI::IsMember(cli::conditionsShown()));
        market->add_option("--group", request_.group, "A sector or an industry");
        market->add_option("--by", request_.figure, "Rank groups by the median of this figure");
        market->add_option("--span", request_.span, "Sessions of a change")
            ->check(CLI::Range(1, 5000));
        market->add_option("--book", request_.file, "Rules of your own, as TOML")
            ->check(CLI::ExistingFile);
    }

    void addLibraryCommands()
    {
        CLI::App* lists = add("lists", "Your lists, or the entries of one as of a day",
                              [this] { return cli::lists(request_, progressOnTerminal()); });
        lists->add_option("--list", request_.list, "Name of a list; without, all are told");
        lists->add_flag("--moves", request_.isMoves, "Who came to the list and who went");
        CLI::App* alerts = add("alerts", "What your alerts told, or tell of a market",
                               [this] { return cli::alerts(request_, progressOnTerminal()); });
        addDay(alerts, "--from", request_.from, "Of the sessions after this day");
        alerts->add_flag("--write", request_.isWrite, "Keep in the library what they tell");
        CLI::App* text = add("library", "The library as a folder of open text, or back",
                             [this] { return cli::libraryAsText(request_); });
        text->add_option("folder", request_.folder, "The folder")->required();
        text->add_flag("--read", request_.isWrite, "Make a new library from the folder");
        text->add_option("--library", request_.library,
                         "The file of your work; without, the window's");
        CLI::App* review = add("review", "What became of what you put onto lists or dropped",
                               [this] { return cli::review(request_, progressOnTerminal()); });
        review->add_option("--by", request_.show, "Counted by this; without, all together")
            ->check(CLI::IsMember(cli::reviewedBy()));
        review->add_flag("--cases", request_.isTable, "Case by case");
        review->preparse_callback([this](std::size_t) { request_.show = "all"; });
        CLI::App* brief = app_.add_subcommand("brief", "What changed since a day, on one page");
        brief->callback([this] {
            command_ = [this] {
                if (isJson_)
                    request_.show = "json";
                return cli::briefText(request_, progressOnTerminal());
            };
        });
        brief->fallthrough();
        brief->preparse_callback([this](std::size_t) { request_.show = "text"; });
        brief->add_option("--form", request_.show, "As text, html, mail, csv or json")
            ->check(CLI::IsMember(cli::briefForms()));
        addDay(brief, "--since", request_.from, "Since this day; without, the session before");
        brief->add_option("--to", request_.text, "Address of the mail; without, your own choice");
        for (CLI::App* command : {lists, alerts, review, brief}) {
            command->add_option("--library", request_.library,
                                "The file of your work; without, the window's");
            CLI::Option* market =
                command->add_option("--market", request_.market, "Folder of the market");
            market->required(command == review || command == brief);
            addDay(command, "--as-of", request_.day, "As known on this day");
        }
    }

    CLI::App app_{"Wise Sieve from the command line", "wise-sieve-cli"};
    bool isJson_ = false;
    cli::Request request_;
    std::function<std::string()> command_; ///< gives its answer as a text
};

} // namespace

int main(int count, char** arguments)
{
    std::signal(SIGINT, stopOnSignal);
    std::signal(SIGTERM, stopOnSignal);
    return CommandLine().run(count, arguments);
}
