#include "cli/opened_market.h"
#include "core/dossier/dossier.h"
#include "core/dossier/json.h"

#include <algorithm>

namespace sieve::cli {

namespace {

dossier::Dossier dossierOf(OpenedMarket& opened, const Request& request,
                           std::span<const std::string> parts, const Progress& progress)
{
    dossier::Subject subject{opened.evaluator(), opened.names(), opened.instrument(request.symbol),
                             opened.day(request)};
    subject.choices.figures = request.expressions;
    subject.choices.isPerShare = request.isPerShare;
    subject.choices.model = request.model;
    subject.choices.checklist = watchlists::standardChecklist();
    if (!(request.model.discount > request.model.lasting))
        throw InputFault("the discount must be above the lasting growth");
    return dossier::makeDossier(subject, parts, progress);
}

} // namespace

std::string dossierText(const Request& request, const Progress& progress)
{
    OpenedMarket opened(request);
    const dossier::Dossier made = dossierOf(opened, request, request.parts, progress);
    return dossier::toJson(made, opened.market());
}

Answer value(const Request& request, const Progress& progress)
{
    OpenedMarket opened(request);
    const std::string parts[] = {"value"};
    const dossier::Dossier made = dossierOf(opened, request, parts, progress);
    Answer answer{{"value", "per_share", "times", "worth", "over_price", "note"}, {}};
    for (const dossier::Row& row : made.part("value")->tables.front().rows) {
        auto& told = answer.rows.emplace_back();
        told.emplace_back(nameOf(row));
        for (const dossier::Cell& cell : row.cells)
            told.push_back(opened.cell(cell.value, cell.kind));
        told.emplace_back(row.cells[2].note);
    }
    return answer;
}

} // namespace sieve::cli
