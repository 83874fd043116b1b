#pragma once

#include "app/desk/asker.h"
#include "core/intake/intake_report.h"

#include <QDialog>
#include <memory>

namespace sieve::app {

/// What the intake found wrong, row by row; searched by word, copied and saved as CSV.
class IntakeReportDialog : public QDialog {
    Q_OBJECT
public:
    IntakeReportDialog(std::shared_ptr<const intake::IntakeReport> report, QWidget* parent);

private:
    void save();

    std::shared_ptr<const intake::IntakeReport> report_;
    Asker finder_;
    Asker saver_;
};

} // namespace sieve::app
