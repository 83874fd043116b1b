#pragma once

#include "core/library/screens.h"

#include <QWidget>

class QComboBox;
class QPushButton;
class QTreeWidget;

namespace sieve::app {

class Desk;

/// What a screen was: its versions with what each changed, and bringing one back.
class ScreenVersions : public QWidget {
    Q_OBJECT
public:
    explicit ScreenVersions(Desk& desk, QWidget* parent = nullptr);
    void show(const std::string& name); ///< a screen of the person's, or a removed one

private:
    void fill(const std::vector<library::ScreenVersion>& versions);
    void compare();
    void bringBack();

    Desk& desk_;
    std::string name_;
    std::vector<library::ScreenVersion> versions_;
    QTreeWidget* list_;
    QComboBox* against_;
    QTreeWidget* differences_;
    QPushButton* bringBack_;
};

} // namespace sieve::app
