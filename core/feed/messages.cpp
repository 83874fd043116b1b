#include "core/feed/messages.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <optional>
#include <type_traits>

namespace sieve::feed {

namespace {

using Json = nlohmann::ordered_json;

/// What is wrong with a part of a message.
struct Fault {
    std::string problem;
    std::string remedy;
};

/// The parts of a message, by name.
class Parts {
public:
    explicit Parts(const Json& object) : object_(object) {}

    std::string text(const char* name, std::size_t longest = 200) const
    {
        const Json& part = partOf(name);
        if (!part.is_string() || part.get_ref<const std::string&>().size() > longest)
            throw Fault{fmt::format("'{}' is no text of up to {} bytes", name, longest), {}};
        return part.get<std::string>();
    }
    std::uint64_t number(const char* name) const
    {
        const Json& part = partOf(name);
        if (!part.is_number_unsigned())
            throw Fault{fmt::format("'{}' is no whole number from 0", name), {}};
        return part.get<std::uint64_t>();
    }
    int whole(const char* name, int least, int most) const
    {
        const std::uint64_t value = number(name);
        if (value < static_cast<std::uint64_t>(least) || value > static_cast<std::uint64_t>(most))
            throw Fault{fmt::format("'{}' is not from {} to {}", name, least, most), {}};
        return static_cast<int>(value);
    }
    double price(const char* name) const
    {
        const double value = figure(name);
        if (value <= 0.0)
            throw Fault{fmt::format("'{}' is no price", name), "a price is more than 0"};
        return value;
    }
    double volume(const char* name) const
    {
        const double value = figure(name);
        if (value < 0.0)
            throw Fault{fmt::format("'{}' is below 0", name), {}};
        return value;
    }
    bool yesNo(const char* name) const ///< false where it is left out
    {
        const auto found = object_.find(name);
        if (found == object_.end())
            return false;
        if (!found->is_boolean())
            throw Fault{fmt::format("'{}' is neither true nor false", name), {}};
        return found->get<bool>();
    }
    Moment moment(const char* name) const
    {
        const auto read = Moment::parse(text(name));
        if (!read)
            throw Fault{fmt::format("'{}' is no time", name), "write 2026-09-30T14:05:30Z"};
        return *read;
    }
    Minute minute(const char* name) const
    {
        const std::string written = text(name);
        const auto read = Minute::parse(written);
        if (!read || read->iso() != written)
            throw Fault{fmt::format("'{}' is no minute", name), "write 2026-09-30T14:05Z"};
        return *read;
    }
    Day day(const char* name) const
    {
        const auto read = Day::parse(text(name));
        if (!read)
            throw Fault{fmt::format("'{}' is no day", name), "write 2026-09-30"};
        return *read;
    }
    std::vector<std::string> texts(const char* name) const
    {
        const Json& part = partOf(name);
        std::vector<std::string> all;
        if (!part.is_array() || part.size() > mostWanted)
            throw Fault{fmt::format("'{}' is no list of up to {} texts", name, mostWanted), {}};
        for (const Json& each : part) {
            if (!each.is_string())
                throw Fault{fmt::format("'{}' has something else than texts", name), {}};
            all.push_back(each.get<std::string>());
        }
        return all;
    }

private:
    const Json& partOf(const char* name) const
    {
        const auto found = object_.find(name);
        if (found == object_.end())
            throw Fault{fmt::format("'{}' is missing", name), {}};
        return *found;
    }
    double figure(const char* name) const
    {
        const Json& part = partOf(name);
        const double value = part.is_number() ? part.get<double>() : NAN;
        if (!std::isfinite(value))
            throw Fault{fmt::format("'{}' is no number", name), {}};
        return value;
    }

    const Json& object_;
};

/// How a kind of message is named, written and read: one row a kind.
template <class Kind> struct Form;

template <> struct Form<Hello> {
    static constexpr std::string_view name = "hello";
    static void write(const Hello& hello, Json& json)
    {
        json["protocol"] = hello.protocol;
        json["market"] = hello.market;
        json["run"] = hello.run;
        json["session"] = hello.session.iso();
        json["opens"] = hello.opens.iso();
        json["closes"] = hello.closes.iso();
        json["clock"] = hello.clock.iso();
        json["speed"] = hello.speed;
        json["paused"] = hello.isPaused;
        json["number"] = hello.number;
    }
    static Hello read(const Parts& parts)
    {
        return {parts.whole("protocol", 1, 1'000),
                parts.text("market"),
                parts.text("run"),
                parts.day("session"),
                parts.moment("opens"),
                parts.moment("closes"),
                parts.moment("clock"),
                parts.whole("speed", 1, fastest),
                parts.yesNo("paused"),
                parts.number("number")};
    }
};

template <> struct Form<Bar> {
    static constexpr std::string_view name = "bar";
    static void write(const Bar& bar, Json& json)
    {
        json["number"] = bar.number;
        json["symbol"] = bar.symbol;
        json["minute"] = bar.minute.iso();
        json["open"] = bar.open;
        json["high"] = bar.high;
        json["low"] = bar.low;
        json["close"] = bar.close;
        json["volume"] = bar.volume;
        if (bar.isCorrection)
            json["correction"] = true;
        if (bar.isLate)
            json["late"] = true;
    }
    static Bar read(const Parts& parts)
    {
        Bar bar{parts.number("number"), parts.text("symbol"),   parts.minute("minute"),
                parts.price("open"),    parts.price("high"),    parts.price("low"),
                parts.price("close"),   parts.volume("volume"), parts.yesNo("correction"),
                parts.yesNo("late")};
        if (bar.high < std::max(bar.open, bar.close) || bar.low > std::min(bar.open, bar.close))
            throw Fault{"open or close lies outside of low and high", {}};
        return bar;
    }
};

template <> struct Form<Last> {
    static constexpr std::string_view name = "last";
    static void write(const Last& last, Json& json)
    {
        json["number"] = last.number;
        json["symbol"] = last.symbol;
        json["at"] = last.at.iso();
        json["price"] = last.price;
    }
    static Last read(const Parts& parts)
    {
        return {parts.number("number"), parts.text("symbol"), parts.moment("at"),
                parts.price("price")};
    }
};

template <> struct Form<End> {
    static constexpr std::string_view name = "end";
    static void write(const End& end, Json& json) { json["number"] = end.number; }
    static End read(const Parts& parts) { return {parts.number("number")}; }
};

template <> struct Form<Clock> {
    static constexpr std::string_view name = "clock";
    static void write(const Clock& clock, Json& json)
    {
        json["at"] = clock.at.iso();
        json["speed"] = clock.speed;
        json["paused"] = clock.isPaused;
        json["number"] = clock.number;
    }
    static Clock read(const Parts& parts)
    {
        return {parts.moment("at"), parts.whole("speed", 1, fastest), parts.yesNo("paused"),
                parts.number("number")};
    }
};

template <> struct Form<Missed> {
    static constexpr std::string_view name = "missed";
    static void write(const Missed& missed, Json& json)
    {
        json["from"] = missed.from;
        json["to"] = missed.to;
    }
    static Missed read(const Parts& parts)
    {
        const Missed missed{parts.number("from"), parts.number("to")};
        if (missed.to < missed.from)
            throw Fault{"'to' lies before 'from'", {}};
        return missed;
    }
};

template <> struct Form<Refusal> {
    static constexpr std::string_view name = "refused";
    static void write(const Refusal& refusal, Json& json) { json["what"] = refusal.what; }
    static Refusal read(const Parts& parts) { return {parts.text("what", 2'000)}; }
};

template <> struct Form<Want> {
    static constexpr std::string_view name = "want";
    static void write(const Want& want, Json& json) { json["symbols"] = want.symbols; }
    static Want read(const Parts& parts) { return {parts.texts("symbols")}; }
};

template <> struct Form<Resume> {
    static constexpr std::string_view name = "resume";
    static void write(const Resume& resume, Json& json)
    {
        json["run"] = resume.run;
        json["after"] = resume.after;
    }
    static Resume read(const Parts& parts) { return {parts.text("run"), parts.number("after")}; }
};

template <> struct Form<SetSpeed> {
    static constexpr std::string_view name = "speed";
    static void write(const SetSpeed& set, Json& json) { json["speed"] = set.speed; }
    static SetSpeed read(const Parts& parts) { return {parts.whole("speed", 1, fastest)}; }
};

template <> struct Form<Pause> {
    static constexpr std::string_view name = "pause";
    static void write(const Pause&, Json&) {}
    static Pause read(const Parts&) { return {}; }
};

template <> struct Form<Go> {
    static constexpr std::string_view name = "go";
    static void write(const Go&, Json&) {}
    static Go read(const Parts&) { return {}; }
};

template <> struct Form<Seek> {
    static constexpr std::string_view name = "seek";
    static void write(const Seek& seek, Json& json) { json["to"] = seek.to.iso(); }
    static Seek read(const Parts& parts) { return {parts.moment("to")}; }
};

template <class Kind>
bool readInto(std::optional<Message>& read, std::string_view type, const Parts& parts)
{
    if (type != Form<Kind>::name)
        return false;
    read = Form<Kind>::read(parts);
    return true;
}

template <class... Kinds> Message readAs(std::string_view type, const Parts& parts)
{
    std::optional<Message> read;
    (readInto<Kinds>(read, type, parts) || ...);
    return read.value_or(Other{std::string(type)});
}

LocatedError refused(std::string problem, std::string remedy)
{
    return {{}, std::move(problem), std::move(remedy)};
}

} // namespace

std::string lineOf(const Message& message)
{
    Json json;
    std::visit(
        [&json](const auto& each) {
            using Kind = std::decay_t<decltype(each)>;
            if constexpr (std::is_same_v<Kind, Other>) {
                json["type"] = each.type;
            } else {
                json["type"] = Form<Kind>::name;
                Form<Kind>::write(each, json);
            }
        },
        message);
    return json.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<Message> messageOf(std::string_view line)
{
    if (line.size() >= longestLine)
        return refused(fmt::format("a line has more than {} bytes", longestLine - 1),
                       "write one message a line");
    const Json json = Json::parse(line, nullptr, false);
    if (!json.is_object())
        return refused("a line is no JSON object", R"(write {"type": "pause"})");
    const auto type = json.find("type");
    if (type == json.end() || !type->is_string())
        return refused("a message has no type", R"(write {"type": "pause"})");
    const auto& name = type->get_ref<const std::string&>();
    try {
        return readAs<Hello, Bar, Last, End, Clock, Missed, Refusal, Want, Resume, SetSpeed, Pause,
                      Go, Seek>(name, Parts(json));
    } catch (const Fault& fault) {
        return refused(fmt::format("{}: {}", name, fault.problem),
                       fault.remedy.empty() ? "see docs/feed-protocol.md" : fault.remedy);
    }
}

} // namespace sieve::feed
