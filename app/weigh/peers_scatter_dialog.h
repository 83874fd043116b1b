#pragma once

#include "app/desk/asker.h"
#include "core/screens/name_book.h"
#include "core/screens/scatter.h"

#include <QDialog>
#include <array>
#include <memory>
#include <vector>

namespace sieve::app {

class Desk;
class ExpressionEdit;
class ScatterPicture;

/// A stock and its peers by two figures, a third one as size. A click goes to the stock.
class PeersScatterDialog : public QDialog {
    Q_OBJECT
public:
    PeersScatterDialog(Desk& desk, std::size_t stock, std::vector<std::size_t> peers, Day day,
                       QWidget* parent);
    ~PeersScatterDialog() override;
    const ScatterPicture& picture() const { return *picture_; }

private:
    void ask();

    Desk& desk_;
    Asker asker_;
    std::shared_ptr<engine::Evaluator> evaluator_; ///< of the market that the stocks are of
    std::size_t stock_;
    std::vector<std::size_t> stocks_; ///< with the peers
    Day day_;
    std::array<ExpressionEdit*, 3> figures_;
    ScatterPicture* picture_;
};

} // namespace sieve::app
