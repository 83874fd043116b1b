#include "core/market/symbol_picking.h"

#include <algorithm>
#include <map>
#include <set>

namespace sieve::market {

namespace {

constexpr std::size_t longestSymbol = 24;

bool isLetter(char c)
{
    return (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z');
}

bool isPart(char c) // of a word that may be a symbol
{
    return isLetter(c) || (c >= '0' && c <= '9') || c == '.' || c == '-' || c == '_' || c == '&';
}

std::string upper(std::string_view word)
{
    std::string all(word);
    for (char& c : all)
        if (c >= 'a' && c <= 'z')
            c = static_cast<char>(c - 'a' + 'A');
    return all;
}

struct Word {
    std::string text;
    bool isMarked = false; ///< by $ or #

    bool isCapitals() const { return text == upper(text); }
    bool hasEnding() const ///< as "VRRA.C": letters, a dot, one to three letters
    {
        const std::size_t dot = text.rfind('.');
        return dot != std::string::npos && dot >= 2 && text.size() - dot >= 2 &&
               text.size() - dot <= 4 &&
               std::ranges::all_of(text, [](char c) { return isLetter(c) || c == '.'; });
    }
};

std::vector<Word> wordsOf(std::string_view text)
{
    std::vector<Word> words;
    for (std::size_t i = 0; i < text.size();) {
        if (!isPart(text[i])) {
            ++i;
            continue;
        }
        std::size_t end = i;
        while (end < text.size() && isPart(text[end]))
            ++end;
        std::string_view word = text.substr(i, end - i);
        while (!word.empty() && !isLetter(word.back()) &&
               !(word.back() >= '0' && word.back() <= '9'))
            word.remove_suffix(1); // the stop of a sentence
        // A letter beyond ASCII beside it makes it a piece of a longer word.
        const bool isPiece = (i > 0 && static_cast<unsigned char>(text[i - 1]) >= 0x80U) ||
                             (end < text.size() && static_cast<unsigned char>(text[end]) >= 0x80U);
        if (!word.empty() && word.size() <= longestSymbol && !isPiece &&
            std::ranges::any_of(word, isLetter))
            words.push_back(
                {std::string(word), i > 0 && (text[i - 1] == '$' || text[i - 1] == '#')});
        i = end;
    }
    return words;
}

/// All symbols, with and without their endings, in capitals.
class Book {
public:
    explicit Book(const Market& market)
    {
        for (std::size_t i = 0; i < market.size(); ++i) {
            const Instrument& instrument = market.instrument(i);
            const std::string symbol = upper(instrument.symbol);
            whole_[symbol].push_back(i);
            if (const std::size_t dot = symbol.rfind('.'); dot != std::string::npos && dot > 0)
                stems_[symbol.substr(0, dot)].push_back(i);
            for (const FormerSymbol& former : instrument.formerSymbols)
                former_[upper(former.symbol)].push_back(i);
        }
    }

    PickedSymbol find(const Word& word) const
    {
        const std::string symbol = upper(word.text);
        for (const auto* known : {&whole_, &stems_, &former_})
            if (const auto found = known->find(symbol); found != known->end())
                return {word.text, found->second, known == &former_};
        return {word.text, {}, false};
    }

private:
    std::map<std::string, std::vector<std::size_t>> whole_;
    std::map<std::string, std::vector<std::size_t>> stems_;
    std::map<std::string, std::vector<std::size_t>> former_;
};

} // namespace

std::vector<PickedSymbol> pickSymbols(const Market& market, std::string_view text)
{
    const Book book(market);
    const std::vector<Word> words = wordsOf(text);
    std::vector<PickedSymbol> found;
    std::size_t known = 0;
    for (const Word& word : words) {
        found.push_back(book.find(word));
        known += found.back().instruments.empty() ? 0U : 1U;
    }
    const bool isMostlySymbols = 2 * known >= words.size();
    std::vector<PickedSymbol> picked;
    std::set<std::string> seen;
    for (std::size_t i = 0; i < words.size(); ++i) {
        const Word& word = words[i];
        const bool isKnown = !found[i].instruments.empty();
        const bool isMeant = word.isMarked || word.hasEnding() ||
                             (isMostlySymbols && (isKnown || word.isCapitals())) ||
                             (isKnown && word.isCapitals());
        if (isMeant && seen.insert(upper(word.text)).second)
            picked.push_back(std::move(found[i]));
    }
    return picked;
}

std::vector<std::size_t> certainPicks(const Market& market, std::string_view text)
{
    std::vector<std::size_t> instruments;
    std::set<std::size_t> seen;
    for (const PickedSymbol& picked : pickSymbols(market, text))
        if (picked.instruments.size() == 1 && seen.insert(picked.instruments[0]).second)
            instruments.push_back(picked.instruments[0]);
    return instruments;
}

} // namespace sieve::market
