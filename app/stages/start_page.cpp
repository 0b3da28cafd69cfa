#include "app/stages/start_page.h"

#include "app/session/settings.h"
#include "core/program/demo_list.h"
#include "core/program/program.h"

#include <QCoreApplication>
#include <QCryptographicHash>
#include <QDir>
#include <QFileInfo>
#include <QPainter>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace pyro {
namespace {

constexpr QSize thumbnailSize{156, 96};
constexpr int perRow = 4;
constexpr int mostRecent = 8;

// The rest of the path is told by the tool tip: names of results are often the same.
QString titleOf(const QString& file) {
    auto name = QFileInfo(file).fileName();
    if (name.endsWith(".survey.json"))
        name.chop(12);
    return QFileInfo(file).dir().dirName() + "/" + name;
}

// Where demos are put: in the cache, or in the build folder by ./demo.
bool isDemo(const QString& file) {
    const auto folder = QFileInfo(file).dir();
    return folder.dirName() == "demo" || folder.path() == QString::fromStdString(demoFolder().string());
}

void clear(QGridLayout* grid) {
    while (auto* item = grid->takeAt(0)) {
        delete item->widget();
        delete item;
    }
}

// In place of a picture that was never taken.
QPixmap blank(const QString& file) {
    QPixmap pixmap(thumbnailSize);
    pixmap.fill(QColor("#22262B"));
    QPainter painter(&pixmap);
    painter.setPen(QColor("#8A8780"));
    painter.drawText(pixmap.rect(), Qt::AlignCenter,
                     file.endsWith(".survey.json") ? QString("Survey") : QFileInfo(file).suffix());
    return pixmap;
}

// The picture that is shipped with a demo; one that is not solved yet says so.
QPixmap shippedPicture(const Demo& demo) {
    QPixmap picture(QString::fromStdString((demo.source / (demo.name + ".png")).string()));
    if (picture.isNull() || isSolved(demo, demoFolder()))
        return picture;
    QPainter painter(&picture);
    const QRect band(0, picture.height() - 44, picture.width(), 44);
    painter.fillRect(band, QColor(34, 38, 43, 220));
    auto font = painter.font();
    font.setPixelSize(22); // of a picture twice as large as its tile
    painter.setFont(font);
    painter.setPen(QColor("#E8E4DB"));
    painter.drawText(band, Qt::AlignCenter, "is solved first");
    return picture;
}

} // namespace

StartPage::StartPage(QWidget* parent) : QWidget(parent) {
    setObjectName("startPage");
    setAttribute(Qt::WA_StyledBackground);
    auto* title = new QLabel("Open a result");
    title->setObjectName("startTitle");
    auto* words = new QLabel(
        "Choose the file that your solver wrote, a folder of them, or a survey; or drop it anywhere on this window. "
        "Read are VTK files of every kind, CGNS, Exodus II, XDMF, STL, OBJ and PLY. "
        "A file is never changed.");
    words->setObjectName("startWords");
    words->setWordWrap(true);
    auto* buttons = new QHBoxLayout;
    const auto button = [&](const char* style, const char* name, const QString& text) {
        auto* made = new QPushButton(text);
        made->setObjectName(style);
        made->setAccessibleName(name);
        buttons->addWidget(made);
        return made;
    };
    connect(button("primary", "startCase", "Open case\u2026"), &QPushButton::clicked, this, &StartPage::caseRequested);
    connect(button("startFolder", "startFolder", "Open folder\u2026"), &QPushButton::clicked, this,
            &StartPage::folderRequested);
    connect(button("startSurvey", "startSurvey", "Open survey\u2026"), &QPushButton::clicked, this,
            &StartPage::surveyRequested);
    buttons->addStretch();
    const auto heading = [](const QString& text) {
        auto* label = new QLabel(text.toUpper());
        label->setObjectName("startHeading");
        return label;
    };
    m_recentTitle = heading("Opened lately");
    m_demoTitle = heading("Demos");
    m_recent = new QGridLayout;
    m_demos = new QGridLayout;
    for (auto* grid : {m_recent, m_demos}) {
        grid->setSpacing(12);
        grid->setColumnStretch(perRow, 1);
    }
    auto* column = new QVBoxLayout;
    column->setSpacing(12);
    column->addWidget(title);
    column->addWidget(words);
    column->addLayout(buttons);
    column->addSpacing(12);
    column->addWidget(m_recentTitle);
    column->addLayout(m_recent);
    column->addSpacing(8);
    column->addWidget(m_demoTitle);
    column->addLayout(m_demos);
    column->addStretch();
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(48, 40, 48, 24);
    layout->addLayout(column, 1);
    refresh();
}

QString StartPage::thumbnailOf(const QString& file) {
    const auto key =
        QCryptographicHash::hash(QFileInfo(file).absoluteFilePath().toUtf8(), QCryptographicHash::Sha1).toHex();
    return QString::fromStdString((cacheFolder() / "thumbnails" / (key.toStdString() + ".png")).string());
}

QToolButton* StartPage::addTile(const QString& file, const QString& title, QGridLayout* grid, int at) {
    auto* tile = new QToolButton;
    tile->setObjectName(grid == m_demos ? "demoTile" : "startTile");
    tile->setAccessibleName(file);
    tile->setToolTip(QDir::toNativeSeparators(file));
    tile->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    QPixmap picture(thumbnailOf(file));
    tile->setIcon(picture.isNull() ? blank(file) : picture);
    tile->setIconSize(thumbnailSize);
    tile->setFixedSize(thumbnailSize.width() + 14, thumbnailSize.height() + 34);
    tile->setText(tile->fontMetrics().elidedText(title, Qt::ElideMiddle, thumbnailSize.width()));
    grid->addWidget(tile, at / perRow, at % perRow);
    return tile;
}

void StartPage::addRecent(const QString& file, int at) {
    connect(addTile(file, titleOf(file), m_recent, at), &QToolButton::clicked, this,
            [this, file] { emit fileRequested(file); });
}

void StartPage::addDemo(const Demo& demo, int at) {
    const auto file = QString::fromStdString((demoFolder() / demo.survey).string());
    auto* tile = addTile(file, QString::fromStdString(demo.title), m_demos, at);
    tile->setToolTip(QString::fromStdString(demo.title + ": " + demo.about));
    if (QPixmap(thumbnailOf(file)).isNull())
        if (const auto picture = shippedPicture(demo); !picture.isNull())
            tile->setIcon(picture);
    connect(tile, &QToolButton::clicked, this,
            [this, name = QString::fromStdString(demo.name)] { emit demoRequested(name); });
}

void StartPage::refresh() {
    clear(m_recent);
    clear(m_demos);
    int recent = 0;
    for (const auto& file : settings::recentFiles())
        if (recent < mostRecent && !isDemo(file))
            addRecent(file, recent++);
    m_recentTitle->setVisible(recent > 0);
    const auto demos = shippedDemos();
    for (std::size_t at = 0; demos && at < demos->size(); ++at)
        addDemo((*demos)[at], static_cast<int>(at));
    m_demoTitle->setVisible(demos.has_value());
}

} // namespace pyro
