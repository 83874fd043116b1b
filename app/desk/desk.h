#pragma once

// What every place stands on. Each part is a file of its own, and a place includes those it uses:
//   open_market.h     the market that is open
//   focus.h           the as-of day, the selected stock
//   day_player.h      the as-of day goes forward by itself
//   workbench.h       the person's work and its undo
//   screen_shelf.h, field_shelf.h       saved screens and own fields, parts of the work
//   drawing_shelf.h   drawings on a chart, parts of the work too
//   set_up_shelf.h    a person's set-ups on a chart, likewise
//   settings.h        what is remembered of the window
//   market_reader.h   how the market is doing
//   alert_keeper.h    what alerts told
//   mail_keeper.h     mails of the evening
//   calendar_keeper.h what is due, as a file for other programs
//   navigator.h       the way to another place
//   asker.h           questions to the core, beside the window's thread
//   library_keeper.h, market_keeper.h   files, on threads of their own

#include <QObject>
#include <filesystem>

namespace sieve::app {

class AlertKeeper;
class CalendarKeeper;
class DayPlayer;
class FieldShelf;
class Focus;
class LibraryKeeper;
class MailKeeper;
class MarketReader;
class Navigator;
class OpenMarket;
class ScreenShelf;
class Settings;
class Workbench;

/// The person's desk: every place reads it and listens to it; no place knows another.
class Desk : public QObject {
    Q_OBJECT
public:
    /// An empty library path keeps the work in memory only. `markets` is the folder in which the
    /// markets that are made from datasets are kept.
    Desk(std::filesystem::path library, std::filesystem::path markets, QObject* parent = nullptr);
    ~Desk() override;

    OpenMarket& market() const { return *market_; }
    Focus& focus() const { return *focus_; }
    DayPlayer& player() const { return *player_; }
    Workbench& work() const { return *work_; }
    ScreenShelf& screenShelf() const { return *screens_; }
    FieldShelf& fieldShelf() const { return *fields_; }
    Settings& settings() const { return *settings_; }
    MarketReader& conditions() const { return *reader_; } ///< the market by the person's rules
    AlertKeeper& alerts() const { return *alerts_; }
    MailKeeper& mail() const { return *mail_; }
    CalendarKeeper& calendar() const { return *calendar_; }
    Navigator& navigator() const { return *navigator_; }
    LibraryKeeper& keeper() const { return *keeper_; }

Q_SIGNALS:
    void noticed(const QString& notice); ///< something that the person must know
    void told(const QString& fact);      ///< something that is good to know

private:
    void connectParts();

    // Children, made in this order; each knows those before it.
    LibraryKeeper* keeper_;
    Settings* settings_;
    OpenMarket* market_;
    Focus* focus_;
    DayPlayer* player_;
    Navigator* navigator_;
    Workbench* work_;
    ScreenShelf* screens_;
    FieldShelf* fields_;
    MarketReader* reader_;
    AlertKeeper* alerts_;
    MailKeeper* mail_;
    CalendarKeeper* calendar_;
};

} // namespace sieve::app
