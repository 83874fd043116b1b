#include "app/frame/doorbell.h"

#include <QCryptographicHash>
#include <QDataStream>
#include <QDir>
#include <QFileInfo>
#include <QLocalSocket>

namespace sieve::app {

namespace {

constexpr int patience = 1500; // milliseconds, for a window that is busy
const QByteArray heard("heard");

/// The same for every way to write the path of one file.
QString nameFor(const QString& library)
{
    const QFileInfo file(library);
    const QString folder = QFileInfo(file.absolutePath()).canonicalFilePath();
    const QString path = (folder.isEmpty() ? file.absolutePath() : folder) + u'/' + file.fileName();
    const QByteArray number =
        QCryptographicHash::hash(path.toUtf8(), QCryptographicHash::Sha256).toHex().left(20);
    return QStringLiteral("wise-sieve-") + QString::fromLatin1(number);
}

} // namespace

Doorbell::Doorbell(const QString& library, QObject* parent)
    : QObject(parent), name_(nameFor(library))
{
    server_.setSocketOptions(QLocalServer::UserAccessOption);
    connect(&server_, &QLocalServer::newConnection, this, &Doorbell::answer);
}

bool Doorbell::ring(const QString& library, const QStringList& arguments)
{
    QLocalSocket socket;
    socket.connectToServer(nameFor(library));
    if (!socket.waitForConnected(patience))
        return false;
    QDataStream stream(&socket);
    stream << arguments;
    socket.flush();
    return socket.waitForReadyRead(patience) && socket.readAll() == heard;
}

void Doorbell::listen()
{
    if (server_.isListening())
        return;
    QLocalServer::removeServer(name_);
    server_.listen(name_); // where it cannot, a second window opens to read only
}

void Doorbell::answer()
{
    while (QLocalSocket* socket = server_.nextPendingConnection()) {
        connect(socket, &QLocalSocket::disconnected, socket, &QObject::deleteLater);
        const auto read = [this, socket] {
            QDataStream stream(socket);
            stream.startTransaction();
            QStringList arguments;
            stream >> arguments;
            if (!stream.commitTransaction())
                return; // the rest is to come
            socket->write(heard);
            socket->flush();
            Q_EMIT rung(arguments);
        };
        connect(socket, &QLocalSocket::readyRead, this, read);
        if (socket->bytesAvailable() > 0)
            read();
    }
}

} // namespace sieve::app
