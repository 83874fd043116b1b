#include "app/look/tone.h"

#include <QColor>
#include <QLabel>
#include <QStyle>
#include <QVariant>

namespace sieve::app {

void setTone(QLabel* label, Tone tone)
{
    constexpr const char* names[] = {"ink", "soft", "mark", "rise", "fall", "caution"};
    const QString name = QLatin1String(names[static_cast<std::size_t>(tone)]);
    if (label->property("tone") == name)
        return;
    label->setProperty("tone", name);
    label->style()->unpolish(label); // the style sheet looks at properties only when it polishes
    label->style()->polish(label);
}

QString coloured(const QString& text, const QColor& colour)
{
    return QStringLiteral("<span style='color:%1'>%2</span>")
        .arg(colour.name(), text.toHtmlEscaped());
}

} // namespace sieve::app
