#pragma once

#include <QDialog>

namespace sieve::app {

/// Every key there is, under the place in which it works: read from the table of actions.
class KeysDialog : public QDialog {
    Q_OBJECT
public:
    explicit KeysDialog(QWidget* parent);
};

} // namespace sieve::app
