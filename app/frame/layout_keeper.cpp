#include "app/frame/layout_keeper.h"

#include "app/chart/chart_view.h"
#include "app/desk/settings.h"
#include "app/parts/number_text.h"
#include "app/parts/own_widths.h"
#include "app/parts/remembered.h"

#include <QAbstractButton>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QEvent>
#include <QHeaderView>
#include <QSplitter>
#include <QTabWidget>

namespace sieve::app {

namespace {

constexpr int quiet = 500; // milliseconds without a change, after which it is written
constexpr const char* windowKey = "window";

std::string keyOf(const QWidget* widget)
{
    const QString key = widget->property(rememberedAs).toString();
    return key.isEmpty() ? std::string() : "layout." + utf8(key);
}

std::string base64(const QByteArray& bytes)
{
    return bytes.toBase64().toStdString();
}

} // namespace

LayoutKeeper::LayoutKeeper(Settings& settings, QWidget& window)
    : QObject(&window), settings_(settings), window_(window)
{
    soon_.setSingleShot(true);
    soon_.setInterval(quiet);
    connect(&soon_, &QTimer::timeout, this, &LayoutKeeper::write);
    connect(&settings_, &Settings::loaded, this, &LayoutKeeper::restoreAll);
    window_.installEventFilter(this);
}

void LayoutKeeper::adopt(QWidget* page)
{
    pages_.push_back(page);
    for (QWidget* widget : page->findChildren<QWidget*>())
        if (const std::string key = keyOf(widget); !key.empty()) {
            if (settings_.isLoaded())
                restore(widget, key);
            follow(widget, key);
        }
}

void LayoutKeeper::restoreAll()
{
    const auto geometry =
        QByteArray::fromBase64(QByteArray::fromStdString(settings_.value(windowKey)));
    if (!geometry.isEmpty())
        window_.restoreGeometry(geometry);
    for (QWidget* page : pages_)
        for (QWidget* widget : page->findChildren<QWidget*>())
            if (const std::string key = keyOf(widget); !key.empty())
                restore(widget, key);
}

void LayoutKeeper::restore(QWidget* widget, const std::string& key)
{
    const std::string& kept = settings_.value(key);
    if (kept.empty())
        return;
    isRestoring_ = true;
    const int number = text(kept).toInt();
    if (auto* splitter = qobject_cast<QSplitter*>(widget))
        splitter->restoreState(QByteArray::fromBase64(QByteArray::fromStdString(kept)));
    else if (auto* tabs = qobject_cast<QTabWidget*>(widget))
        tabs->setCurrentIndex(number);
    else if (auto* box = qobject_cast<QComboBox*>(widget))
        box->setCurrentIndex(number < box->count() ? number : box->currentIndex());
    else if (auto* spin = qobject_cast<QDoubleSpinBox*>(widget))
        spin->setValue(text(kept).toDouble());
    else if (auto* head = qobject_cast<QHeaderView*>(widget))
        setOwnWidths(head, text(kept));
    else if (auto* chart = qobject_cast<ChartView*>(widget))
        chart->restoreSetUp(kept);
    else if (auto* button = qobject_cast<QAbstractButton*>(widget);
             button && button->isChecked() != (number != 0))
        button->click(); // as the person did, with all that follows
    isRestoring_ = false;
}

void LayoutKeeper::follow(QWidget* widget, const std::string& key)
{
    if (auto* splitter = qobject_cast<QSplitter*>(widget))
        connect(splitter, &QSplitter::splitterMoved, this,
                [this, splitter, key] { note(key, base64(splitter->saveState())); });
    else if (auto* tabs = qobject_cast<QTabWidget*>(widget))
        connect(tabs, &QTabWidget::currentChanged, this,
                [this, key](int page) { note(key, std::to_string(page)); });
    else if (auto* box = qobject_cast<QComboBox*>(widget))
        connect(box, &QComboBox::currentIndexChanged, this,
                [this, key](int entry) { note(key, std::to_string(entry)); });
    else if (auto* spin = qobject_cast<QDoubleSpinBox*>(widget))
        connect(spin, &QDoubleSpinBox::valueChanged, this,
                [this, key](double value) { note(key, utf8(QString::number(value, 'g', 12))); });
    else if (auto* head = qobject_cast<QHeaderView*>(widget))
        connect(head, &QHeaderView::sectionResized, this,
                [this, head, key](int column, int, int width) {
                    if (!isRestoring_ && takeOwnWidth(head, column, width))
                        note(key, utf8(ownWidths(head)));
                });
    else if (auto* chart = qobject_cast<ChartView*>(widget))
        connect(chart, &ChartView::setUpChanged, this,
                [this, chart, key] { note(key, charts::toToml(chart->setUp())); });
    else if (auto* button = qobject_cast<QAbstractButton*>(widget))
        connect(button, &QAbstractButton::toggled, this,
                [this, key](bool isDown) { note(key, isDown ? "1" : "0"); });
}

bool LayoutKeeper::eventFilter(QObject*, QEvent* event)
{
    if ((event->type() == QEvent::Resize || event->type() == QEvent::Move ||
         event->type() == QEvent::WindowStateChange) &&
        window_.isVisible())
        note(windowKey, base64(window_.saveGeometry()));
    if (event->type() == QEvent::Close)
        write();
    return false;
}

void LayoutKeeper::note(const std::string& key, std::string value)
{
    if (isRestoring_ || !settings_.isLoaded())
        return;
    changed_[key] = std::move(value);
    soon_.start();
}

void LayoutKeeper::write()
{
    for (const auto& [key, value] : changed_)
        settings_.set(key, value);
    changed_.clear();
}

} // namespace sieve::app
