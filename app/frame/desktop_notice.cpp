#include "app/frame/desktop_notice.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QVariantMap>

namespace sieve::app {

void showOnDesktop(const QString& title, const QString& text)
{
    QDBusConnection bus = QDBusConnection::sessionBus();
    if (!bus.isConnected())
        return;
    const QString service = QStringLiteral("org.freedesktop.Notifications");
    QDBusMessage call =
        QDBusMessage::createMethodCall(service, QStringLiteral("/org/freedesktop/Notifications"),
                                       service, QStringLiteral("Notify"));
    constexpr quint32 replacesNone = 0;
    constexpr int asLongAsUsual = -1;
    // The body is markup there: nothing of the person's words is.
    call.setArguments({QStringLiteral("Wise Sieve"), replacesNone, QStringLiteral("wise-sieve"),
                       title, text.toHtmlEscaped(), QStringList(), QVariantMap(), asLongAsUsual});
    bus.send(call);
}

} // namespace sieve::app
