#pragma once

#include "core/studies/cautions.h"

#include <QFrame>
#include <vector>

class QDateEdit;
class QDoubleSpinBox;
class QGridLayout;
class QLineEdit;
class QPushButton;
class QScrollArea;
class QSpinBox;

namespace sieve::app {

/// The left side of a study: what is asked, field under field, and the button that asks, which
/// becomes the one that stops.
class QuestionPanel : public QFrame {
    Q_OBJECT
public:
    explicit QuestionPanel(const QString& title, QWidget* parent = nullptr);

    void addHead(const QString& head);
    void addField(const QString& label, QWidget* field, const QString& tip = {});
    /// Two short fields beside each other.
    void addPair(const QString& label, QWidget* left, QWidget* right, const QString& tip = {});
    void addWide(QWidget* widget);
    /// The day from which on nothing is looked at yet (asideBox).
    void addAside(QDateEdit* box);
    /// Whose variants are counted; `unnamed`: what it is called where the person says nothing.
    void addIdea(const QString& unnamed);
    QString idea() const; ///< empty: the person said nothing
    void setIdea(const QString& idea);
    void setBusy(bool isBusy);
    void tellProgress(double fraction);

protected:
    void showEvent(QShowEvent* event) override; ///< it is as wide as its fields need

Q_SIGNALS:
    void asked();
    void stopped();

private:
    QScrollArea* scroll_;
    QGridLayout* fields_;
    QPushButton* ask_;
    QLineEdit* idea_ = nullptr;
    bool isBusy_ = false;
};

/// Fields under each other, their labels on the left: the same measures in all parts of a form.
void shapeFields(QGridLayout& fields);
void addLabelled(QGridLayout& fields, const QString& label, QWidget* field,
                 const QString& tip = {});

QDoubleSpinBox* percentBox(const QString& name, double value, double most,
                           const QString& none = {});
QSpinBox* countBox(const QString& name, int value, int least, int most, const QString& suffix = {},
                   const QString& none = {});
QDateEdit* dayBox(const QString& name);
/// Lets a day be chosen among the market's, or brings the choice to the whole of another market.
void offerDays(QDateEdit* from, QDateEdit* to, const market::Market& market);
/// The day from which on nothing is looked at yet; its first one says that nothing is set aside.
QDateEdit* asideBox();
void offerAside(QDateEdit* box, const market::Market& market);
std::optional<Day> asideOf(const QDateEdit* box);
void chooseAside(QDateEdit* box, std::optional<Day> day);
/// Cautions as one text, a line each, with a sign before each.
QString cautionsText(const std::vector<studies::Caution>& cautions);

} // namespace sieve::app
