#include "core/intake/news.h"

#include "core/intake/byte_source.h"
#include "core/intake/fact_rows.h"
#include "core/intake/rows.h"

#include <algorithm>
#include <fmt/format.h>
#include <pugixml.hpp>
#include <tuple>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;

constexpr std::size_t largestFeed = 64U << 20U;

/// The whole file; empty when it is too large to be a feed.
std::string feedText(const fs::path& path)
{
    const auto source = openBytes(path);
    std::string text;
    constexpr std::size_t piece = 256U << 10U;
    for (std::size_t got = piece; got == piece && text.size() <= largestFeed;) {
        const std::size_t before = text.size();
        text.resize(before + piece);
        got = source->read(std::span(text).subspan(before));
        text.resize(before + got);
    }
    return text.size() > largestFeed ? std::string() : text;
}

class Feed {
public:
    Feed(std::string file, const std::string& text, const Records& records, IntakeReport& report,
         FactRows<market::NewsItem>& taken)
        : file_(std::move(file)), text_(text), records_(records), report_(report), taken_(taken)
    {
    }

    void read()
    {
        pugi::xml_document document;
        const auto result = document.load_buffer(text_.data(), text_.size(), pugi::parse_default);
        if (!result) {
            report_.add({file_, lineOf(result.offset), "", "",
                         fmt::format("no XML: {}", result.description()), "file left out"});
            return;
        }
        const pugi::xml_node feed = document.child("feed");
        if (!feed) {
            report_.add({file_, 1, "", "", "no Atom feed: its first element is not <feed>",
                         "file left out"});
            return;
        }
        for (const pugi::xml_node entry : feed.children("entry"))
            take(entry);
    }

private:
    void take(const pugi::xml_node& entry)
    {
        ++report_.rows;
        const std::string_view updated =
            entry.child_value(entry.child("updated") ? "updated" : "published");
        const auto time = Minute::parse(updated);
        if (!time)
            return leaveOut(entry, "updated", updated, "not a time such as 2025-03-14T09:30Z");
        market::NewsItem item{*time, entry.child_value("id"), entry.child_value("title"),
                              entry.child_value(entry.child("summary") ? "summary" : "content"),
                              entry.child("link").attribute("href").value()};
        if (item.id.empty())
            return leaveOut(entry, "id", item.title, "an entry without an id");
        if (!entry.child("category"))
            return leaveOut(entry, "category", item.title, "an entry about no symbol");
        for (const pugi::xml_node category : entry.children("category")) {
            const std::string_view symbol = category.attribute("term").value();
            if (const auto record = records_.find(symbol, time->day()))
                taken_.add(*record, lineOf(entry.offset_debug()), item);
            else
                leaveOut(entry, "category", symbol, "no instrument has this symbol");
        }
    }

    /// The line of a place in the text; places are asked for from the front to the back.
    std::size_t lineOf(std::ptrdiff_t place)
    {
        const auto end =
            std::clamp<std::ptrdiff_t>(place, counted_, static_cast<std::ptrdiff_t>(text_.size()));
        line_ += static_cast<std::size_t>(
            std::count(text_.begin() + counted_, text_.begin() + end, '\n'));
        counted_ = end;
        return line_;
    }

    void leaveOut(const pugi::xml_node& entry, const char* column, std::string_view what,
                  const char* why)
    {
        ++report_.rowsLeftOut;
        report_.add(
            {file_, lineOf(entry.offset_debug()), column, shown(what), why, "entry left out"});
    }

    std::string file_;
    const std::string& text_;
    const Records& records_;
    IntakeReport& report_;
    FactRows<market::NewsItem>& taken_;
    std::ptrdiff_t counted_ = 0;
    std::size_t line_ = 1;
};

} // namespace

void readNews(const fs::path& folder, Records& records, IntakeReport& report,
              const Progress& progress)
{
    std::vector<fs::path> files;
    std::error_code none;
    for (const auto& entry : fs::directory_iterator(folder / "news", none)) {
        const fs::path path = entry.path();
        if (path.extension() == ".xml" ||
            (path.extension() == ".gz" && path.stem().extension() == ".xml"))
            files.push_back(path);
    }
    std::ranges::sort(files);
    FactRows<market::NewsItem> taken;
    for (const fs::path& path : files) {
        if (progress.stopRequested())
            throw Stopped{};
        ++report.files;
        const std::string name = "news/" + path.filename().string();
        const std::string text = feedText(path);
        if (text.empty()) {
            report.add({name, 0, "", "", "empty, or larger than 64 MiB", "file left out"});
            continue;
        }
        Feed(name, text, records, report, taken).read();
    }
    taken.finish(
        records, "news", report, [](auto& record) -> auto& { return record.notices.news; },
        [](const market::NewsItem& item) { return item.id; });
}

} // namespace sieve::intake
