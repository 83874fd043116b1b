#include "app/sift/screen_texts.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QCoreApplication>
#include <fmt/format.h>

namespace sieve::app {

namespace {

QString translated(const char* words)
{
    return QCoreApplication::translate("Screens", words);
}

std::optional<LocatedError> problemOf(const std::string& criterion, const language::Names& names)
{
    engine::Plan plan;
    const auto checked = checkCondition(criterion, names, plan);
    return checked ? std::nullopt : std::optional(checked.error());
}

} // namespace

QString wordsOf(const screens::Screen& screen)
{
    std::string all = fmt::format("{} {} {} {} {}", screen.name, screen.purpose, screen.folder,
                                  fmt::join(screen.tags, " "), screen.universe);
    for (const screens::Criterion& criterion : screen.criteria)
        all += " " + criterion.text;
    return text(all);
}

QString purposeOf(const screens::Screen& screen)
{
    if (screen.side == screens::ScreenSide::Short)
        return translated("Short side");
    QString purpose = screen.tags.empty() ? translated("other") : text(screen.tags[0]);
    purpose[0] = purpose[0].toUpper();
    return purpose;
}

QString screenAsHtml(const screens::Screen& screen, const language::Names& names)
{
    QString html;
    const auto add = [&](const QString& head, const QString& what) {
        if (!what.isEmpty())
            html += QStringLiteral("<p><span style='color:%1'>%2</span><br>%3</p>")
                        .arg(look().softInk.name(), head, what);
    };
    const auto withProblem = [&](const std::string& condition) {
        QString shown = text(condition).toHtmlEscaped();
        if (const auto problem = problemOf(condition, names))
            shown += QStringLiteral("<br><span style='color:%1'>%2</span>")
                         .arg(look().caution.name(), text(sentence(*problem)).toHtmlEscaped());
        return shown;
    };
    if (!screen.universe.empty())
        add(translated("Universe"), withProblem(screen.universe));
    QString criteria;
    for (const screens::Criterion& criterion : screen.criteria) {
        criteria += QStringLiteral("<li>") + withProblem(criterion.text);
        if (!criterion.isOn)
            criteria += translated("  (off)");
        if (!criterion.comment.empty())
            criteria +=
                QStringLiteral("<br><i>%1</i>").arg(text(criterion.comment).toHtmlEscaped());
        criteria += QStringLiteral("</li>");
    }
    if (!criteria.isEmpty())
        html += QStringLiteral("<p style='color:%1'>%2</p><ol style='margin-left:-20px'>%3</ol>")
                    .arg(look().softInk.name(), translated("Criteria"), criteria);
    if (!screen.rankBy.empty())
        add(translated("Ranked by"),
            text(screen.rankBy).toHtmlEscaped() +
                (screen.keep > 0 ? translated(", the best %1").arg(screen.keep) : QString()));
    add(translated("Columns"),
        text(fmt::format("{}", fmt::join(screen.columns, ", "))).toHtmlEscaped());
    add(translated("Notes"), text(screen.notes).toHtmlEscaped());
    return html;
}

} // namespace sieve::app
