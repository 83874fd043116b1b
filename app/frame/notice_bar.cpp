#include "app/frame/notice_bar.h"

#include <QDialog>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPlainTextEdit>
#include <QToolButton>
#include <QVBoxLayout>

namespace sieve::app {

NoticeBar::NoticeBar(QWidget* parent)
    : QWidget(parent), notice_(new QLabel), understood_(new QToolButton)
{
    setObjectName(QStringLiteral("noticeBar"));
    setAttribute(Qt::WA_StyledBackground);
    notice_->setWordWrap(true);
    notice_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    notice_->setAccessibleName(tr("Notice"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(14, 4, 12, 4);
    layout->addWidget(notice_, 1);
    layout->addWidget(understood_);
    connect(understood_, &QToolButton::clicked, this, &NoticeBar::next);
    hide();
}

void NoticeBar::add(const QString& text, Severity severity)
{
    history_.push_back({QDateTime::currentDateTime(), severity, text});
    if (severity == Severity::Fact || waiting_.contains(text))
        return;
    waiting_.append(text);
    show();
}

QString NoticeBar::shown() const
{
    return waiting_.value(0);
}

void NoticeBar::next()
{
    waiting_.removeFirst();
    show();
}

void NoticeBar::show()
{
    setVisible(!waiting_.isEmpty());
    notice_->setText(waiting_.value(0));
    understood_->setText(waiting_.size() > 1 ? tr("Understood, %1 more").arg(waiting_.size() - 1)
                                             : tr("Understood"));
}

void showNoticeHistory(const NoticeBar& notices, QWidget* parent)
{
    QDialog dialog(parent);
    dialog.setWindowTitle(NoticeBar::tr("Notices of this session"));
    dialog.resize(680, 380);
    auto* texts = new QPlainTextEdit;
    texts->setReadOnly(true);
    texts->setAccessibleName(NoticeBar::tr("Notices"));
    QStringList lines;
    for (const NoticeBar::Told& told : notices.history())
        lines.prepend(QLocale::c().toString(told.at, QStringLiteral("HH:mm:ss")) +
                      QStringLiteral("   ") + told.text);
    texts->setPlainText(lines.isEmpty() ? NoticeBar::tr("Nothing was told in this session.")
                                        : lines.join(QStringLiteral("\n\n")));
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    auto* layout = new QVBoxLayout(&dialog);
    layout->addWidget(texts, 1);
    layout->addWidget(buttons);
    dialog.exec();
}

} // namespace sieve::app
