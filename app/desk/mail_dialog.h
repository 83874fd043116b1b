#pragma once

#include "core/screens/column_sets.h"
#include "core/watchlists/mail_terms.h"

#include <QDialog>
#include <array>
#include <span>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;

namespace sieve::app {

class Desk;

/// Lets the person change it, as one step of the work.
void editMail(Desk& desk, QWidget* window);

/// What a person wants to be told by mail, where and on which evenings.
class MailDialog : public QDialog {
    Q_OBJECT
public:
    /// `outbox`: the folder into which mails go.
    MailDialog(const watchlists::MailTerms& terms, std::span<const screens::ColumnSet> own,
               const QString& outbox, QWidget* parent);

    watchlists::MailTerms terms() const;
    bool isOneWantedNow() const { return isOneWantedNow_; }

    void accept() override; ///< an address with a fault is told and stays

private:
    QLineEdit* to_;
    std::array<QCheckBox*, 7> evenings_{};
    QCheckBox* brief_;
    QCheckBox* alerts_;
    QComboBox* columns_;
    QLabel* fault_;
    bool isOneWantedNow_ = false;
};

} // namespace sieve::app
