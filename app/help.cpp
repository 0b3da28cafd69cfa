#include "app/help.h"

#include "app/stages/stage.h"

#include <QDialog>
#include <QLabel>
#include <QVBoxLayout>

namespace pyro {
namespace {

constexpr const char* mouse =
    "<p>In the viewport: drag to turn, Shift-drag or right-drag to move, wheel to zoom, double-click a place to come "
    "nearer. F fits, X Y Z look along an axis, with Shift from the other side.</p>";

QString textOn(const Stage& stage) {
    QString text = QString("<h3>%1</h3><ol style='margin-left:-18px'>").arg(stage.id);
    for (const auto* one : stage.wantedMost)
        text += QString("<li style='margin-bottom:4px'>") + one + "</li>";
    return text + "</ol>" + stage.help + (stage.mouseHelp ? mouse : "") + "<p>Ctrl+K finds every action by name.</p>";
}

} // namespace

void helpOn(const Stage& stage, QWidget* parent) {
    auto* dialog = new QDialog(parent);
    dialog->setObjectName("helpDialog");
    dialog->setWindowTitle(QString("Help on ") + stage.id);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    auto* text = new QLabel(textOn(stage));
    text->setWordWrap(true);
    text->setMinimumWidth(420);
    auto* layout = new QVBoxLayout(dialog);
    layout->setContentsMargins(20, 8, 20, 12);
    layout->addWidget(text);
    dialog->show();
}

} // namespace pyro
