#include "feed/feed_server.h"

#include <QTcpSocket>
#include <algorithm>

namespace sieve {

namespace {

constexpr int stepMilliseconds = 20;
constexpr qint64 beatMilliseconds = 500;

} // namespace

struct FeedServer::Client {
    QTcpSocket* socket = nullptr; ///< the server's; freed with the client
    feed::Subscriber said;
    bool isGone = false;
};

FeedServer::FeedServer(feed::Replay replay) : replay_(std::move(replay))
{
    connect(&server_, &QTcpServer::newConnection, this, &FeedServer::welcome);
    connect(&timer_, &QTimer::timeout, this, &FeedServer::step);
    timer_.setTimerType(Qt::PreciseTimer);
}

FeedServer::~FeedServer()
{
    for (const auto& client : clients_)
        client->socket->disconnect(this); // their end is no news any more
}

QString FeedServer::listen(const QHostAddress& address, quint16 port)
{
    if (!server_.listen(address, port))
        return server_.errorString();
    sinceStep_.start();
    sinceBeat_.start();
    timer_.start(stepMilliseconds);
    return {};
}

void FeedServer::welcome()
{
    while (QTcpSocket* socket = server_.nextPendingConnection()) {
        if (clients_.size() >= mostClients) {
            delete socket;
            continue;
        }
        // What a client says waits in its own machine until it is taken.
        socket->setReadBufferSize(mostRead);
        socket->setSocketOption(QAbstractSocket::LowDelayOption, 1);
        clients_.push_back(
            std::make_unique<Client>(Client{socket, feed::Subscriber(replay_), false}));
        Client* const client = clients_.back().get();
        connect(socket, &QTcpSocket::readyRead, this, [this, client] { hear(*client); });
        connect(socket, &QTcpSocket::bytesWritten, this, [this, client] { tell(*client); });
        connect(socket, &QTcpSocket::disconnected, this, [client] { client->isGone = true; });
        tell(*client);
    }
}

void FeedServer::hear(Client& client)
{
    if (client.isGone)
        return;
    const QByteArray bytes = client.socket->read(mostRead);
    client.said.take({bytes.constData(), static_cast<std::size_t>(bytes.size())});
    if (client.said.isHostile())
        return sendAway(client);
    tell(client);
}

void FeedServer::tell(Client& client)
{
    while (!client.isGone && client.socket->bytesToWrite() < mostUnsent) {
        const auto room = static_cast<std::size_t>(mostUnsent - client.socket->bytesToWrite());
        const std::string lines = client.said.due(room);
        if (lines.empty())
            return;
        client.socket->write(lines.data(), static_cast<qint64>(lines.size()));
    }
}

void FeedServer::sendAway(Client& client)
{
    client.isGone = true;
    client.socket->abort();
}

void FeedServer::step()
{
    replay_.advance(static_cast<double>(sinceStep_.nsecsElapsed()) * 1e-9);
    sinceStep_.start();
    forgetGone();
    const bool isBeat = sinceBeat_.elapsed() >= beatMilliseconds;
    if (isBeat)
        sinceBeat_.start();
    for (const auto& client : clients_) {
        if (isBeat)
            client->said.beat();
        if (client->socket->bytesAvailable() > 0) // more than was taken at once
            hear(*client);
        tell(*client);
    }
}

/// Not while one of them is being heard.
void FeedServer::forgetGone()
{
    std::erase_if(clients_, [this](const std::unique_ptr<Client>& client) {
        if (client->isGone) {
            client->socket->disconnect(this);
            client->socket->deleteLater();
        }
        return client->isGone;
    });
}

} // namespace sieve
