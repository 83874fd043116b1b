#include "core/base/minute.h"
#include "core/base/pack.h"

#include <catch2/catch.hpp>

namespace sieve {

TEST_CASE("Minute: reads times with their zone and nothing else", "[base]")
{
    const auto iso = [](const char* text) {
        const auto minute = Minute::parse(text);
        return minute ? minute->iso() : std::string("none");
    };
    CHECK(iso("2026-09-30T14:05Z") == "2026-09-30T14:05Z");
    CHECK(iso("2026-09-30 14:05:59Z") == "2026-09-30T14:05Z");
    CHECK(iso("2026-09-30T14:05:59.123+01:00") == "2026-09-30T13:05Z");
    CHECK(iso("2026-09-30T23:30-0330") == "2026-10-01T03:00Z");
    CHECK(iso("2026-01-01T00:10+01") == "2025-12-31T23:10Z");
    CHECK(iso("2026-01-01T00:10+00:00") == "2026-01-01T00:10Z");
    CHECK(iso("2026-01-01T00:40+00:30") == "2026-01-01T00:10Z");
    CHECK(iso("1969-12-31T23:59Z") == "1969-12-31T23:59Z");
    for (const char* bad : {"", "2026-09-30", "2026-09-30T14:05", "2026-09-30T24:00Z",
                            "2026-09-30T14:60Z", "2026-02-30T14:05Z", "2026-09-30T14:05X",
                            "2026-09-30T14:05+25:00", "2026-09-30T1405Z", "9924-09-30T14:05Z"})
        CHECK(iso(bad) == "none");
}

TEST_CASE("Minute: its day and its place in it, before 1970 too", "[base]")
{
    const Minute before = *Minute::parse("1969-12-31T23:59Z");
    CHECK(before.day().iso() == "1969-12-31");
    CHECK(before.minuteOfDay() == 23 * 60 + 59);
    CHECK(before.plusMinutes(1).day().iso() == "1970-01-01");
}

TEST_CASE("Pack: what is packed comes back, what is cut short is told", "[base]")
{
    Packer packer;
    packer.add(std::uint32_t{7});
    packer.add(std::string_view("kelp"));
    packer.add(std::optional<Day>());
    packer.add(1.5);
    const auto bytes = std::as_bytes(std::span(packer.bytes()));
    Unpacker whole(bytes);
    CHECK(whole.read<std::uint32_t>() == 7);
    CHECK(whole.readText() == "kelp");
    CHECK_FALSE(whole.readOptionalDay());
    CHECK(whole.read<double>() == 1.5);
    CHECK(whole.isWhole());
    for (std::size_t cut = 0; cut < bytes.size(); ++cut) {
        Unpacker part(bytes.first(cut));
        (void)part.read<std::uint32_t>();
        (void)part.readText();
        (void)part.readOptionalDay();
        (void)part.read<double>();
        CHECK_FALSE(part.isWhole());
    }
    Packer liar; // a list of a billion entries in four bytes
    liar.add(std::uint32_t{1'000'000'000});
    CHECK(Unpacker(std::as_bytes(std::span(liar.bytes()))).readCount() == 0);
}

} // namespace sieve
