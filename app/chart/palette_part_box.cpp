#include "app/chart/palette_part_box.h"

#include "app/chart/chart_picture.h"
#include "app/look/look.h"

#include <QComboBox>
#include <QCoreApplication>
#include <QPainter>

namespace sieve::app {

QIcon palettePartIcon(PalettePart part)
{
    constexpr double ratio = 3.0; // sharp at any scale of the desktop
    QPixmap picture(static_cast<int>(14 * ratio), static_cast<int>(14 * ratio));
    picture.setDevicePixelRatio(ratio);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.fillRect(QRectF(1.0, 5.0, 12.0, 4.0), ChartPicture::colourOf(part, look()));
    return QIcon(picture);
}

QComboBox* makePalettePartBox()
{
    const auto tr = [](const char* words) {
        return QCoreApplication::translate("PalettePart", words);
    };
    const std::pair<PalettePart, QString> parts[] = {
        {PalettePart::Mark, tr("Accent")},    {PalettePart::Rise, tr("As a rise")},
        {PalettePart::Fall, tr("As a fall")}, {PalettePart::Caution, tr("Caution")},
        {PalettePart::Ink, tr("Text")},       {PalettePart::Soft, tr("Soft")}};
    auto* box = new QComboBox;
    for (const auto& [part, title] : parts)
        box->addItem(palettePartIcon(part), title, static_cast<int>(part));
    return box;
}

} // namespace sieve::app
