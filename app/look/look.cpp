#include "app/look/look.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QStyleFactory>
#include <QSvgRenderer>
#include <utility>

/// The pictures and fonts lie in a static library, which must be told to bring them.
static void bringResources() // outside the namespace, as Qt's macro asks
{
    Q_INIT_RESOURCE(look);
}

namespace sieve::app {

namespace {

Palette current = paperPalette();
constexpr int bodyPixels = 13;

void loadFonts()
{
    static const bool loaded = [] {
        bringResources();
        for (const char* weight : {"Regular", "Medium", "SemiBold"})
            QFontDatabase::addApplicationFont(
                QStringLiteral(":/fonts/InterTabular-%1.otf").arg(QLatin1String(weight)));
        return true;
    }();
    Q_UNUSED(loaded)
}

QPalette widgetPalette(const Palette& colours)
{
    QPalette made;
    made.setColor(QPalette::Window, colours.ground);
    made.setColor(QPalette::WindowText, colours.ink);
    made.setColor(QPalette::Base, colours.sheet);
    made.setColor(QPalette::AlternateBase, colours.ground);
    made.setColor(QPalette::Text, colours.ink);
    made.setColor(QPalette::Button, colours.sheet);
    made.setColor(QPalette::ButtonText, colours.ink);
    made.setColor(QPalette::BrightText, colours.caution);
    made.setColor(QPalette::Highlight, colours.wash(colours.mark, 0.22));
    made.setColor(QPalette::HighlightedText, colours.ink);
    made.setColor(QPalette::Link, colours.mark);
    made.setColor(QPalette::ToolTipBase, colours.sheet);
    made.setColor(QPalette::ToolTipText, colours.ink);
    made.setColor(QPalette::PlaceholderText, colours.softInk);
    made.setColor(QPalette::Light, colours.sheet);
    made.setColor(QPalette::Mid, colours.rule);
    made.setColor(QPalette::Dark, colours.rule);
    made.setColor(QPalette::Shadow, colours.rule);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        made.setColor(QPalette::Disabled, role, colours.softInk);
    return made;
}

QString styleSheet(const Palette& colours)
{
    QFile file(QStringLiteral(":/look/window.qss"));
    if (!file.open(QIODevice::ReadOnly))
        return {};
    QString sheet = QString::fromUtf8(file.readAll());
    const std::pair<const char*, QColor> names[] = {
        {"@ground", colours.ground},   {"@sheet", colours.sheet},
        {"@rule", colours.rule},       {"@ink", colours.ink},
        {"@softInk", colours.softInk}, {"@markWash", colours.wash(colours.mark, 0.14)},
        {"@mark", colours.mark},       {"@cautionWash", colours.wash(colours.caution, 0.22)},
        {"@caution", colours.caution}, {"@rise", colours.rise},
        {"@fall", colours.fall},
    };
    for (const auto& [name, colour] : names)
        sheet.replace(QLatin1String(name), colour.name());
    return sheet;
}

} // namespace

OnPaper::OnPaper() : former_(std::exchange(current, paperPalette())) {}

OnPaper::~OnPaper()
{
    current = former_;
}

const Palette& look()
{
    return current;
}

void wear(const Palette& colours)
{
    loadFonts();
    current = colours;
    if (QStyle* fusion = QStyleFactory::create(QStringLiteral("Fusion")))
        QApplication::setStyle(fusion);
    QApplication::setFont(fontOf(Weight::Regular));
    QApplication::setPalette(widgetPalette(colours));
    qApp->setStyleSheet(styleSheet(colours));
}

QFont fontOf(Weight weight, double factor)
{
    QFont font(QStringLiteral("Inter Tabular"));
    font.setPixelSize(static_cast<int>(bodyPixels * factor + 0.5));
    font.setWeight(weight == Weight::SemiBold ? QFont::DemiBold
                   : weight == Weight::Medium ? QFont::Medium
                                              : QFont::Normal);
    return font;
}

QIcon iconOf(const QString& name, const QColor& colour)
{
    QFile file(QStringLiteral(":/icons/%1.svg").arg(name));
    if (!file.open(QIODevice::ReadOnly))
        return {};
    QSvgRenderer drawing(file.readAll().replace("currentColor", colour.name().toUtf8()));
    QIcon icon;
    for (const int size : {20, 40, 60}) {
        QPixmap picture(size, size);
        picture.fill(Qt::transparent);
        QPainter painter(&picture);
        drawing.render(&painter);
        icon.addPixmap(picture);
    }
    return icon;
}

} // namespace sieve::app
