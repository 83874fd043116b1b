#pragma once

#include <QObject>
#include <QTimer>
#include <map>
#include <string>
#include <vector>

class QWidget;

namespace sieve::app {

class Settings;

/// Keeps how a person arranged the window (see remembered.h, and the window's own place and size):
/// what is changed is in the library half a second later, so that a crash loses nothing worth a
/// word.
class LayoutKeeper : public QObject {
    Q_OBJECT
public:
    LayoutKeeper(Settings& settings, QWidget& window);

    /// Puts what is remembered of these widgets back, and follows them from now on. Before the
    /// settings are loaded it only notes the page.
    void adopt(QWidget* page);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void restoreAll();
    void restore(QWidget* widget, const std::string& key);
    void follow(QWidget* widget, const std::string& key);
    void note(const std::string& key, std::string value);
    void write();

    Settings& settings_;
    QWidget& window_;
    std::vector<QWidget*> pages_;
    std::map<std::string, std::string> changed_;
    QTimer soon_;
    bool isRestoring_ = false;
};

} // namespace sieve::app
