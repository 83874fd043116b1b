#include "core/exports/mail_file.h"

#include <catch2/catch.hpp>
#include <gmime/gmime.h>
#include <memory>
#include <stdexcept>

namespace sieve::exports {

namespace {

Mail letter()
{
    return {"Ana Ruhl <ana@example.org>",
            "Wed 30 Sep: 3 alerts, “Quay”",
            "Plain, with a line that is a good deal longer than seventy-eight characters, so that "
            "it is broken.\n.\nFrom here on: é, 魚, 🐟\n",
            "<p>HTML &amp; é</p>\n",
            std::chrono::sys_seconds(std::chrono::seconds(1'790'000'000)),
            "evening-2026-09-30"};
}

struct Unref {
    void operator()(void* object) const { g_object_unref(object); }
};

std::string contentOf(GMimeObject* part)
{
    const std::unique_ptr<char, decltype(&g_free)> text(
        g_mime_text_part_get_text(GMIME_TEXT_PART(part)), &g_free);
    return text.get();
}

} // namespace

TEST_CASE("Mail: a file that is read back as it was", "[exports]")
{
    const std::string file = toEml(letter());
    CHECK(file == toEml(letter()));
    for (const char c : file)
        REQUIRE((c == '\n' || c == '\r' || c == '\t' || (c >= 0x20 && c < 0x7f)));
    const std::unique_ptr<GMimeStream, Unref> stream(
        g_mime_stream_mem_new_with_buffer(file.data(), file.size()));
    const std::unique_ptr<GMimeParser, Unref> parser(g_mime_parser_new_with_stream(stream.get()));
    const std::unique_ptr<GMimeMessage, Unref> read(
        g_mime_parser_construct_message(parser.get(), nullptr));
    REQUIRE(read);
    CHECK(std::string(g_mime_message_get_subject(read.get())) == letter().subject);
    InternetAddressList* to = g_mime_message_get_to(read.get());
    REQUIRE(internet_address_list_length(to) == 1);
    InternetAddress* ana = internet_address_list_get_address(to, 0);
    CHECK(std::string(internet_address_get_name(ana)) == "Ana Ruhl");
    CHECK(g_date_time_to_unix(g_mime_message_get_date(read.get())) == 1'790'000'000);
    auto* both = GMIME_MULTIPART(g_mime_message_get_mime_part(read.get()));
    REQUIRE(g_mime_multipart_get_count(both) == 2);
    CHECK(contentOf(g_mime_multipart_get_part(both, 0)) == letter().text);
    CHECK(contentOf(g_mime_multipart_get_part(both, 1)) == letter().html);
}

TEST_CASE("Mail: a recipient with line breaks is refused, and a subject cannot make a head",
          "[exports]")
{
    for (const char* address :
         {"", "ana", "ana@", "@example.org", "ana@example.org\nBcc: x@example.org",
          "ana@example.org\r\n", "a@example.org, b@example.org", "ana\t@example.org",
          "Friends: a@example.org, b@example.org;", "an a@example.org"}) {
        INFO(address);
        CHECK_FALSE(faultOfAddress(address).empty());
        Mail mail = letter();
        mail.to = address;
        CHECK_THROWS_AS(toEml(mail), std::invalid_argument);
    }
    for (const char* address : {"ana@example.org", "Ana Ruhl <ana@example.org>",
                                "\"Ruhl, Ana\" <ana.r+x@mail.example.org>", "ana@localhost"})
        CHECK(faultOfAddress(address).empty());
    Mail mail = letter();
    mail.subject = "One\r\nBcc: x@example.org\r\n\r\nbody";
    const std::string file = toEml(mail);
    CHECK(file.find("\nBcc:") == std::string::npos);
    CHECK(file.find("\r\nBcc:") == std::string::npos);
}

} // namespace sieve::exports
