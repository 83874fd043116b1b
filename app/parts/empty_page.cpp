#include "app/parts/empty_page.h"

#include "app/look/look.h"
#include "app/look/tone.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace sieve::app {

EmptyPage::EmptyPage(QWidget* parent)
    : QWidget(parent), title_(new QLabel), text_(new QLabel), step_(new QPushButton)
{
    title_->setFont(fontOf(Weight::SemiBold, 1.25));
    text_->setWordWrap(true);
    setTone(text_, Tone::Soft);
    text_->setFixedWidth(400); // a wrapped text is as high as it needs
    auto* layout = new QVBoxLayout(this);
    layout->addStretch(2);
    layout->addWidget(title_, 0, Qt::AlignHCenter);
    layout->addSpacing(4);
    layout->addWidget(text_, 0, Qt::AlignHCenter);
    layout->addSpacing(10);
    layout->addWidget(step_, 0, Qt::AlignHCenter);
    layout->addStretch(3);
    connect(step_, &QPushButton::clicked, this, &EmptyPage::stepTaken);
}

void EmptyPage::setTexts(const QString& title, const QString& text, const QString& step)
{
    title_->setText(title);
    text_->setText(text);
    text_->setAlignment(Qt::AlignHCenter);
    step_->setText(step);
    step_->setVisible(!step.isEmpty());
}

} // namespace sieve::app
