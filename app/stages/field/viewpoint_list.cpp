#include "app/stages/field/viewpoint_list.h"

#include "core/survey/viewpoints.h"

#include <QMenu>
#include <algorithm>

namespace pyro {

ViewpointList::ViewpointList(Session& session, QWidget* parent) : QListWidget(parent), m_session(session) {
    setObjectName("viewpointList");
    setViewMode(QListView::IconMode);
    setFlow(QListView::LeftToRight);
    setWrapping(false);
    setMovement(QListView::Static);
    setSelectionMode(QAbstractItemView::NoSelection); // a selected picture would be greyed
    setIconSize({78, 48});
    setGridSize({88, 72});
    setFixedHeight(84);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setHorizontalScrollMode(QAbstractItemView::ScrollPerPixel);
    setContextMenuPolicy(Qt::CustomContextMenu);
    setFocusPolicy(Qt::ClickFocus);
    connect(this, &QListWidget::itemClicked, this,
            [this](QListWidgetItem* item) { restore(item->data(Qt::UserRole).toString()); });
    connect(this, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
        m_session.editOrComplain("Rename viewpoint",
                                 withViewpointRenamed(m_session.survey(),
                                                      item->data(Qt::UserRole).toString().toStdString(),
                                                      item->text().trimmed().toStdString()));
        m_listed = {};
        refresh();
    });
    connect(this, &QListWidget::customContextMenuRequested, this, &ViewpointList::menuAt);
    m_playing.setInterval(2500);
    connect(&m_playing, &QTimer::timeout, this, &ViewpointList::playNext);
    refresh();
}

QPushButton* ViewpointList::player() {
    m_play = new QPushButton("Play all");
    m_play->setObjectName("link");
    m_play->setAccessibleName("playViewpoints");
    m_play->setCheckable(true);
    m_play->setToolTip("Shows one viewpoint after the other");
    connect(m_play, &QPushButton::toggled, this, [this](bool on) {
        m_play->setText(on ? "Stop" : "Play all");
        m_next = 0;
        if (!on)
            return m_playing.stop();
        m_playing.start();
        playNext();
    });
    return m_play;
}

void ViewpointList::playNext() {
    const auto viewpoints = m_session.survey().viewpoints;
    if (viewpoints.empty())
        return m_play->setChecked(false);
    m_session.restore(viewpoints[m_next++ % viewpoints.size()], {GestureKind::Play});
}

void ViewpointList::refresh() {
    if (m_play != nullptr)
        m_play->setVisible(m_session.survey().viewpoints.size() > 1);
    if (m_listed == m_session.survey().viewpoints)
        return;
    m_listed = m_session.survey().viewpoints;
    const QSignalBlocker quiet(this);
    clear();
    for (const auto& viewpoint : m_session.survey().viewpoints) {
        const auto name = QString::fromStdString(viewpoint.name);
        QPixmap picture;
        picture.loadFromData(QByteArray::fromBase64(QByteArray::fromStdString(viewpoint.thumbnail)), "PNG");
        auto* item = new QListWidgetItem(QIcon(picture), name, this);
        item->setData(Qt::UserRole, name);
        item->setFlags(item->flags() | Qt::ItemIsEditable);
        item->setToolTip(
            (viewpoint.withCase ? name + ", of " + QString::fromStdString(viewpoint.view.caseName) : name) +
            ": click to see it as it was kept, right-click for more");
    }
}

void ViewpointList::restore(const QString& name) {
    for (const auto& viewpoint : m_session.survey().viewpoints)
        if (viewpoint.name == name.toStdString())
            m_session.restore(viewpoint);
}

void ViewpointList::menuAt(const QPoint& at) {
    auto* item = itemAt(at);
    if (item == nullptr)
        return;
    const auto name = item->data(Qt::UserRole).toString();
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction("Rename", this, [this, item] { editItem(item); });
    menu->addAction("Keep the present view here", this, [this, name] { emit keepRequested(name); });
    const auto& viewpoints = m_session.survey().viewpoints;
    const auto kept = std::ranges::find(viewpoints, name.toStdString(), &Viewpoint::name);
    auto* withCase = menu->addAction("With its case and step");
    withCase->setCheckable(true);
    withCase->setChecked(kept != viewpoints.end() && kept->withCase);
    connect(withCase, &QAction::triggered, this, [this, name](bool on) {
        auto next = withViewpointOfCase(m_session.survey(), name.toStdString(), on);
        m_session.edit(on ? "Viewpoint with its case" : "Viewpoint of any case", std::move(next));
    });
    menu->addAction("Delete", this, [this, name] {
        m_session.edit("Delete viewpoint", withoutViewpoint(m_session.survey(), name.toStdString()));
    });
    menu->popup(viewport()->mapToGlobal(at));
}

} // namespace pyro
