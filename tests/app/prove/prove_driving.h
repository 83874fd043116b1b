#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QTableView>
#include <QTest>
#include <algorithm>
#include <stdexcept>

/// What the tests of Prove do in its window.
namespace sieve::test {

/// The first child of a kind with that accessible name.
template <class Kind> Kind* childOf(const QWidget& root, const QString& name)
{
    for (auto* child : root.findChildren<Kind*>())
        if (child->accessibleName() == name)
            return child;
    throw std::runtime_error("no child is called " + name.toStdString());
}

inline void type(QLineEdit& line, const char* text)
{
    line.setFocus();
    line.clear();
    QTest::keyClicks(&line, QString::fromUtf8(text));
    QTest::keyClick(&line, Qt::Key_Escape); // the list of words
}

inline QStringList cellsOf(const QTableView& table, int column)
{
    QStringList cells;
    for (int row = 0; row < table.model()->rowCount(); ++row)
        cells << table.model()->index(row, column).data().toString();
    return cells;
}

inline bool isSaid(const QWidget& root, const QString& words)
{
    const auto labels = root.findChildren<QLabel*>();
    return std::ranges::any_of(labels, [&](const QLabel* label) {
        return label->isVisible() && label->text().contains(words);
    });
}

} // namespace sieve::test
