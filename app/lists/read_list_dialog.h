#pragma once

#include "core/library/work.h"
#include "core/watchlists/list_reading.h"

#include <QDialog>
#include <cstdint>
#include <optional>

class QComboBox;
class QLabel;
class QLineEdit;

namespace sieve::app {

/// What a file gives for a list, row by row where something is to be said, before it is taken: onto
/// a list kept by hand, or as a new one.
class ReadListDialog : public QDialog {
    Q_OBJECT
public:
    /// `onto`: the list that is offered first, where there is one of that id.
    ReadListDialog(const library::Work& work, const QString& file, const watchlists::ListRead& read,
                   std::int64_t onto, QWidget* parent);

    std::optional<std::int64_t> list() const; ///< empty: a new one
    QString newName() const;                  ///< of a new one

    void accept() override; ///< a name that is empty or taken is told and stays

private:
    library::Work work_;
    QComboBox* to_;
    QLineEdit* name_;
    QLabel* fault_;
};

} // namespace sieve::app
