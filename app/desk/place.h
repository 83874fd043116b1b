#pragma once

#include <QWidget>

namespace sieve::app {

/// A place of the routine. It answers for what it shows while it can be seen; what happens
/// meanwhile is made good when it is shown again, so that only the place in use costs time.
class Place : public QWidget {
    Q_OBJECT
public:
    using QWidget::QWidget;

protected:
    /// What is shown is out of date: bringUp() is called now, or once the place can be seen.
    void refresh()
    {
        isStale_ = !isVisible();
        if (!isStale_)
            bringUp();
    }
    /// Brings what is shown up to the desk.
    virtual void bringUp() = 0;

    void showEvent(QShowEvent* event) override
    {
        QWidget::showEvent(event);
        if (isStale_)
            refresh();
    }

private:
    bool isStale_ = false;
};

} // namespace sieve::app
