#pragma once

#include <QString>
#include <string>

class QTextDocument;

namespace sieve::app {

/// A page of HTML for people: the inside of its body in the colours of paper, and its title.
struct SavedPage {
    QString title;
    std::string body;
};

/// The letters of the window as CSS, for a page, and others where they are not there.
std::string familyOfWindow();
/// Puts a page into a document as it is printed.
void fillForPaper(QTextDocument& document, const SavedPage& page);
/// Saves it as PDF on A4, or as HTML where the path ends so. Gives back what went wrong; empty:
/// nothing, and the file is on the disk whole.
QString savePage(const QString& path, const SavedPage& page);

} // namespace sieve::app
