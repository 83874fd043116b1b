#include "core/exports/mail_file.h"

#include <algorithm>
#include <gmime/gmime.h>
#include <memory>
#include <mutex>
#include <stdexcept>

namespace sieve::exports {

namespace {

struct Unreferenced {
    void operator()(void* object) const { g_object_unref(object); }
};
template <class T> using Referenced = std::unique_ptr<T, Unreferenced>;

void startGMime()
{
    static std::once_flag once;
    std::call_once(once, [] { g_mime_init(); });
}

bool isControl(char c)
{
    return static_cast<unsigned char>(c) < 0x20 || c == 0x7f;
}

Referenced<InternetAddressList> addressesIn(std::string_view text)
{
    startGMime();
    return Referenced<InternetAddressList>(
        internet_address_list_parse(nullptr, std::string(text).c_str()));
}

Referenced<GMimeTextPart> textPart(const char* subtype, const std::string& text)
{
    Referenced<GMimeTextPart> part(g_mime_text_part_new_with_subtype(subtype));
    g_mime_text_part_set_charset(part.get(), "utf-8");
    g_mime_text_part_set_text(part.get(), text.c_str());
    g_mime_part_set_content_encoding(GMIME_PART(part.get()),
                                     GMIME_CONTENT_ENCODING_QUOTEDPRINTABLE);
    return part;
}

} // namespace

std::string faultOfAddress(std::string_view address)
{
    if (address.empty())
        return "an address is missing";
    if (std::ranges::any_of(address, isControl))
        return "an address has no line breaks or control characters";
    const auto list = addressesIn(address);
    if (!list || internet_address_list_length(list.get()) != 1)
        return "write one address, such as name@example.org";
    InternetAddress* only = internet_address_list_get_address(list.get(), 0);
    if (!INTERNET_ADDRESS_IS_MAILBOX(only))
        return "write one address, not a group";
    const char* mailbox = internet_address_mailbox_get_addr(INTERNET_ADDRESS_MAILBOX(only));
    const std::string_view plain(mailbox ? mailbox : "");
    const std::size_t at = plain.rfind('@');
    if (at == std::string_view::npos || at == 0 || at + 1 == plain.size() ||
        plain.find(' ') != std::string_view::npos)
        return "write an address such as name@example.org";
    return {};
}

std::string toEml(const Mail& mail)
{
    if (const std::string fault = faultOfAddress(mail.to); !fault.empty())
        throw std::invalid_argument("a mail cannot be written: " + fault);
    startGMime();
    const Referenced<GMimeMessage> message(g_mime_message_new(TRUE));
    g_mime_message_add_mailbox(message.get(), GMIME_ADDRESS_TYPE_FROM, "Wise Sieve",
                               "wise-sieve@localhost");
    internet_address_list_append(g_mime_message_get_to(message.get()), addressesIn(mail.to).get());
    std::string subject = mail.subject;
    std::ranges::replace_if(subject, isControl, ' ');
    g_mime_message_set_subject(message.get(), subject.c_str(), "utf-8");
    const std::unique_ptr<GDateTime, decltype(&g_date_time_unref)> at(
        g_date_time_new_from_unix_utc(mail.at.time_since_epoch().count()), &g_date_time_unref);
    g_mime_message_set_date(message.get(), at.get());
    g_mime_message_set_message_id(message.get(), (mail.id + "@wise-sieve").c_str());

    const Referenced<GMimeMultipart> both(g_mime_multipart_new_with_subtype("alternative"));
    // A boundary of its own, so that the same letter is the same file.
    g_mime_multipart_set_boundary(both.get(), ("=_" + mail.id).c_str());
    g_mime_multipart_add(both.get(), GMIME_OBJECT(textPart("plain", mail.text).get()));
    g_mime_multipart_add(both.get(), GMIME_OBJECT(textPart("html", mail.html).get()));
    g_mime_message_set_mime_part(message.get(), GMIME_OBJECT(both.get()));
    const std::unique_ptr<char, decltype(&g_free)> file(
        g_mime_object_to_string(GMIME_OBJECT(message.get()), nullptr), &g_free);
    return file.get();
}

} // namespace sieve::exports
