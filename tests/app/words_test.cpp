// The trade's words: labels that engineers had to ask about are gone, from every stage of the window and from the
// documents.
#include "tests/app/window_fixture.h"

#include <QAbstractButton>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QRegularExpression>
#include <QTableView>
#include <fstream>

using namespace pyro;
using namespace pyro::test;

namespace {

// Nowhere in a text.
const QStringList phrases{"heat map",
                          "heat path",
                          "heat paths",
                          "ways of heat",
                          "(?<!heat )flux lines",
                          "bottleneck",
                          "as usual here",
                          "the best at hand",
                          "stands out",
                          "stands out by",
                          "size within",
                          "all warm and cold",
                          "faces a temperature",
                          "behind R",
                          "K between means",
                          "of turnover",
                          "draw it",
                          "it radiates:",
                          "who says so",
                          "take them over",
                          "leave it",
                          "take away",
                          "see alone",
                          "not alone",
                          "logarithmic across",
                          "logarithmic upwards",
                          "one step back",
                          "one step on",
                          "longer where it is larger",
                          "linear bridge",
                          "point bridge",
                          "humidity asks for",
                          "expected end",
                          "what it is worth",
                          "between nodes",
                          "lies within what surrounds it",
                          "every part has a neighbour",
                          "what leaves is what is stated",
                          "balance closes",
                          "is told",
                          "turned over in itself",
                          "slip of the pen",
                          "three places"};
// Not as a label, where the words by themselves are good ones.
const QStringList labels{"heat by",
                         "against",
                         "per power",
                         "known from",
                         "lies on",
                         "of what leaves",
                         "meeting in",
                         "born",
                         "gone",
                         "lasts",
                         "moved",
                         "what if",
                         "on",
                         "what",
                         "at most",
                         "at least",
                         "take",
                         "follow",
                         "run",
                         "apart",
                         "apart, mm",
                         "other side",
                         "across",
                         "heavy",
                         "every",
                         "under",
                         "kind of limit",
                         "wanted",
                         "coupling coefficient L",
                         "of",
                         "K/W",
                         "role",
                         "of the cell",
                         "held",
                         "look",
                         "broken",
                         "from memory"};

QString whereGone(const QString& text) {
    static const QRegularExpression any("(?<![\\w-])(" + phrases.join('|') + ")(?![\\w-])",
                                        QRegularExpression::CaseInsensitiveOption);
    return any.match(text).captured();
}

class WordsTest : public WindowTest {
protected:
    QStringList texts() {
        QStringList all;
        for (auto* widget : window->findChildren<QWidget*>()) {
            all << widget->toolTip() << widget->windowTitle();
            if (auto* label = qobject_cast<QLabel*>(widget))
                all << label->text();
            if (auto* one = qobject_cast<QAbstractButton*>(widget))
                all << one->text();
            if (auto* edit = qobject_cast<QLineEdit*>(widget))
                all << edit->placeholderText();
            if (auto* box = qobject_cast<QComboBox*>(widget))
                for (int i = 0; i < box->count(); ++i)
                    all << box->itemText(i);
            if (auto* table = qobject_cast<QTableView*>(widget); table != nullptr && table->model() != nullptr)
                for (int column = 0; column < table->model()->columnCount(); ++column) {
                    all << table->model()->headerData(column, Qt::Horizontal).toString();
                    for (int row = 0; row < table->model()->rowCount(); ++row)
                        all << table->model()->index(row, column).data().toString();
                }
        }
        for (auto* action : window->findChildren<QAction*>())
            all << action->text();
        return all;
    }
};

} // namespace

TEST_F(WordsTest, NoStageShowsTheOldLabels) {
    openSurvey();
    for (const auto key : {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_5, Qt::Key_7}) {
        type(key);
        settle();
        for (const auto& text : texts()) {
            EXPECT_FALSE(labels.contains(text, Qt::CaseInsensitive))
                << "stage " << key - Qt::Key_0 << ": " << text.toStdString();
            EXPECT_EQ(whereGone(text), QString()) << "stage " << key - Qt::Key_0 << ": " << text.toStdString();
        }
        type(Qt::Key_F1);
        for (auto* dialog : window->findChildren<QDialog*>("helpDialog")) {
            for (auto* label : dialog->findChildren<QLabel*>())
                EXPECT_EQ(whereGone(label->text()), QString()) << label->text().toStdString();
            delete dialog;
        }
    }
}

// Labels, heads, buttons and menus begin with a capital; values and what names a thing of the case stay as they are.
TEST_F(WordsTest, LabelsAreInSentenceCase) {
    openSurvey();
    const auto check = [&](const QWidget* widget, const QString& text) {
        const bool word = text.size() > 1 && text[0].isLower() && text[1].isLetter();
        static const QStringList shownData{"hint", "stepLabel", "startTile", "demoTile"}; // readings, names of files
        const bool data = widget != nullptr && shownData.contains(widget->objectName());
        EXPECT_FALSE(word && !data) << text.toStdString();
    };
    int labels = 0;
    for (const auto key : {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_5, Qt::Key_7}) {
        type(key);
        settle();
        for (auto* widget : window->findChildren<QWidget*>()) {
            if (auto* label = qobject_cast<QLabel*>(widget))
                check(label, label->text());
            if (auto* one = qobject_cast<QAbstractButton*>(widget))
                check(one, one->text());
            if (auto* edit = qobject_cast<QLineEdit*>(widget))
                check(edit, edit->placeholderText());
            auto* table = qobject_cast<QTableView*>(widget);
            for (int column = 0;
                 table != nullptr && table->model() != nullptr && column < table->model()->columnCount(); ++column)
                check(table, table->model()->headerData(column, Qt::Horizontal).toString());
            ++labels;
        }
        for (auto* action : window->findChildren<QAction*>())
            if (action->objectName() != "shownData")
                check(nullptr, action->text());
    }
    EXPECT_GT(labels, 300);
}

TEST(Words, NoDocumentUsesTheOldLabels) {
    int lines = 0;
    for (const auto* file : {"README.md", "docs/guide.md", "docs/gauges.md", "docs/transmittance.md"}) {
        std::ifstream stream(std::string(PYROMETER_SOURCE) + "/" + file);
        for (std::string line; std::getline(stream, line); ++lines)
            EXPECT_EQ(whereGone(QString::fromStdString(line)), QString()) << file << ": " << line;
    }
    EXPECT_GT(lines, 300);
}
