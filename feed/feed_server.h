#pragma once

#include "core/feed/subscriber.h"

#include <QElapsedTimer>
#include <QHostAddress>
#include <QTcpServer>
#include <QTimer>
#include <memory>
#include <vector>

class QTcpSocket;

namespace sieve {

/// Tells a replay to all who connect. What they are told and what they may say is core/feed's; here
/// are sockets and the real clock alone.
class FeedServer : public QObject {
    Q_OBJECT
public:
    explicit FeedServer(feed::Replay replay);
    ~FeedServer() override;

    /// Port 0: any that is free. Empty, or why it cannot listen.
    QString listen(const QHostAddress& address, quint16 port);
    quint16 port() const { return server_.serverPort(); }

private:
    /// Who is connected.
    struct Client;

    static constexpr int mostClients = 64;
    static constexpr qint64 mostUnsent = qint64{256} << 10; ///< bytes that wait in a socket
    static constexpr qint64 mostRead = qint64{64} << 10;    ///< bytes taken of a client at a time

    void welcome();
    void hear(Client& client);
    void tell(Client& client);
    void step(); ///< lets time go by, and tells everybody
    void sendAway(Client& client);
    void forgetGone();

    feed::Replay replay_;
    QTcpServer server_;
    QTimer timer_;
    QElapsedTimer sinceStep_;
    QElapsedTimer sinceBeat_;
    std::vector<std::unique_ptr<Client>> clients_;
};

} // namespace sieve
