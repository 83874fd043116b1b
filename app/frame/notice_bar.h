#pragma once

#include <QDateTime>
#include <QStringList>
#include <QWidget>
#include <vector>

class QLabel;
class QToolButton;

namespace sieve::app {

/// What the person must know, one after another: a notice stands until it is understood, and none
/// hides another. What was told in this session can be read again.
class NoticeBar : public QWidget {
    Q_OBJECT
public:
    explicit NoticeBar(QWidget* parent = nullptr);

    enum class Severity { Warning, Fact };
    struct Told {
        QDateTime at;
        Severity severity = Severity::Warning;
        QString text;
    };
    /// Warnings wait in the bar; a fact is only remembered: who calls shows it in passing.
    void add(const QString& text, Severity severity);
    QString shown() const;                                        ///< empty when nothing waits
    const std::vector<Told>& history() const { return history_; } ///< the oldest first

private:
    void next();
    void show();

    QLabel* notice_;
    QToolButton* understood_;
    QStringList waiting_; ///< the first is shown
    std::vector<Told> history_;
};

/// All notices of the session, the newest first.
void showNoticeHistory(const NoticeBar& notices, QWidget* parent);

} // namespace sieve::app
