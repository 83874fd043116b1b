#pragma once

#include "app/desk/asker.h"
#include "core/briefing/brief.h"

#include <QWidget>
#include <optional>

class QComboBox;
class QDateEdit;
class QLabel;
class QTextBrowser;

namespace sieve::app {

class Desk;

/// What changed since the person last looked, or since any day: a page to read, print, save and
/// send, of which each line leads to its thing.
class BriefView : public QWidget {
    Q_OBJECT
public:
    explicit BriefView(Desk& desk);

    /// Brings it up to the as-of day. Read on the newest session, that is the one since which the
    /// next brief tells.
    void refresh();
    const std::optional<briefing::Brief>& brief() const { return brief_; }

Q_SIGNALS:
    void marketWanted();
    void groupWanted(const QString& name);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    enum class Since { LastTime, SessionBefore, WeekAgo, MonthAgo, AnyDay };

    void offerSpans();
    std::optional<Day> lastTime() const;
    Day since() const;
    void noteRead();
    void ask();
    void show(const briefing::Brief& brief);
    void showPage();
    void follow(const QString& address);
    void lead(const briefing::Lead& lead);
    void openScreen(const std::string& name);
    void print();
    void save();

    Desk& desk_;
    Asker asker_;
    QComboBox* span_;
    QDateEdit* from_;
    QLabel* state_;
    QTextBrowser* page_;
    std::optional<briefing::Brief> brief_;
};

} // namespace sieve::app
