#include "app/theme/theme.h"

#include "render/verdict_mark.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QSvgRenderer>

// Outside the namespace, as Qt asks: the resources lie in a static library.
static void loadResources() {
    Q_INIT_RESOURCE(icons);
    Q_INIT_RESOURCE(style);
    Q_INIT_RESOURCE(fonts);
}

namespace pyro::theme {

void apply(QApplication& application) {
    loadResources();
    for (const char* weight : {"Regular", "Medium", "SemiBold", "Bold"})
        QFontDatabase::addApplicationFont(QString(":/fonts/Inter-%1.otf").arg(weight));
    QFont font("Inter");
    font.setPixelSize(13);
    application.setFont(font);
    application.setStyle("Fusion");
    QPalette palette;
    palette.setColor(QPalette::Window, sheet);
    palette.setColor(QPalette::Base, Qt::white);
    palette.setColor(QPalette::AlternateBase, QColor(0xFA, 0xF8, 0xF5));
    palette.setColor(QPalette::Text, ink);
    palette.setColor(QPalette::WindowText, ink);
    palette.setColor(QPalette::ButtonText, ink);
    palette.setColor(QPalette::Button, sheet);
    palette.setColor(QPalette::Highlight, QColor(0xF6, 0xDD, 0xD2));
    palette.setColor(QPalette::HighlightedText, ink);
    palette.setColor(QPalette::PlaceholderText, faint);
    palette.setColor(QPalette::ToolTipBase, ink);
    palette.setColor(QPalette::ToolTipText, Qt::white);
    application.setPalette(palette);
    QFile style(":/style.qss");
    if (style.open(QIODevice::ReadOnly))
        application.setStyleSheet(QString::fromUtf8(style.readAll()));
}

QPixmap icon(const QString& name, const QColor& colour, int size, double ratio) {
    QFile file(":/icons/" + name + ".svg");
    QPixmap pixmap(QSize(size, size) * ratio);
    pixmap.fill(Qt::transparent);
    if (file.open(QIODevice::ReadOnly)) {
        QSvgRenderer renderer(file.readAll().replace("currentColor", colour.name().toLatin1()));
        QPainter painter(&pixmap);
        renderer.render(&painter);
    }
    pixmap.setDevicePixelRatio(ratio);
    return pixmap;
}

QPixmap verdictPixmap(Verdict verdict, int size, double ratio) {
    QPixmap pixmap(QSize(size, size) * ratio);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    drawVerdict(painter, QRectF(0, 0, size * ratio, size * ratio), verdict);
    painter.end();
    pixmap.setDevicePixelRatio(ratio);
    return pixmap;
}

} // namespace pyro::theme
