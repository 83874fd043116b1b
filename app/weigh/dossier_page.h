#pragma once

#include "app/weigh/dossier_picture.h"

#include <QWidget>
#include <memory>
#include <optional>
#include <vector>

namespace sieve::app {

/// The parts of a dossier on one long page, painted: small pictures first, figures beside them.
/// A row is chosen by the pointer or by Up and Down; Left and Right go through its figures.
class DossierPage : public QWidget {
    Q_OBJECT
public:
    explicit DossierPage(QWidget* parent = nullptr);

    /// Null: nothing is shown. `market`: the one that it is of.
    void show(std::shared_ptr<const dossier::Dossier> dossier, market::MarketPtr market);
    const dossier::Dossier* dossier() const { return picture_.dossier(); }
    /// Results by year instead of by quarter.
    void setByYear(bool isByYear);
    /// Where a part begins.
    std::optional<int> topOf(std::string_view part) const { return picture_.topOf(part); }
    std::map<std::string, int> partHeights() const { return picture_.heights(); }
    void setLeastHeights(std::map<std::string, int> heights);
    /// The part at a height of the page.
    QString partAt(int y) const;

    /// What the chosen row says, in words and figures.
    QString spokenRow() const;
    const dossier::Table* chosenTable() const;

Q_SIGNALS:
    void explanationAsked(const QString& expression, const QString& title);
    void stockChosen(std::size_t stock);
    void dayChosen(sieve::Day day);
    void tableAsked(const sieve::dossier::Table& table);
    void answerAsked(const QString& question); ///< one that the person answers
    void rowChosen(const QRect& place);        ///< that should be seen

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    bool event(QEvent* event) override;

private:
    using Kind = DossierPicture::Kind;
    using Line = DossierPicture::Line;

    const std::vector<Line>& lines() const { return picture_.lines(); }
    void layOut();
    void choose(std::optional<std::size_t> line, int cell = 0);
    void step(int by);
    void open();
    std::optional<std::size_t> lineAt(const QPoint& point) const;
    const dossier::Row* chosenRow() const;
    QString tipOf(const Line& line) const;

    DossierPicture picture_;
    std::optional<std::size_t> chosen_; ///< a line that is a row
    int cell_ = 0;
};

} // namespace sieve::app
