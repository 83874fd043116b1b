#pragma once

#include "app/desk/asker.h"
#include "core/dossier/dossier.h"
#include "core/screens/name_book.h"

#include <QDialog>
#include <memory>
#include <vector>

class QLabel;
class QLineEdit;
class QScrollArea;

namespace sieve::app {

class Desk;
class DossierPage;

/// The dossiers of two to four stocks beside each other, part by part at the same height, under
/// one scroll bar.
class SideBySideDialog : public QDialog {
    Q_OBJECT
public:
    static constexpr std::size_t most = 4;
    using Make = std::function<dossier::Dossier(std::size_t stock, const Progress&)>;

    /// `symbols`: of the stocks to begin with. `make` owns all that it uses.
    SideBySideDialog(Desk& desk, Day day, const QStringList& symbols, bool isByYear, Make make,
                     QWidget* parent);

    std::size_t shown() const { return pages_.size(); }
    DossierPage& page(std::size_t at) { return *pages_.at(at); }
    QString told() const;

Q_SIGNALS:
    void explanationAsked(std::size_t stock, const QString& expression, const QString& title);
    void stockChosen(std::size_t stock);

private:
    using Dossiers = std::vector<std::shared_ptr<const dossier::Dossier>>;
    void ask();
    void setDossiers(const Dossiers& dossiers);
    void align();
    void jump(int by);
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

    Desk& desk_;
    Asker asker_;
    market::MarketPtr market_;
    Make make_;
    bool isByYear_;
    QLineEdit* symbols_;
    QLabel* told_;
    QWidget* heads_;
    QScrollArea* scroll_;
    std::vector<DossierPage*> pages_;
    Dossiers dossiers_;
};

} // namespace sieve::app
