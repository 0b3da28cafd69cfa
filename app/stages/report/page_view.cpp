#include "app/stages/report/page_view.h"

#include "app/stages/report/copy_part.h"
#include "render/colours.h"
#include "render/paper.h"

#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

constexpr int gap = 14; // pixels between pages
constexpr double widestMm = 4.6;
constexpr double leastZoom = 0.8;
constexpr double mostZoom = 16;
constexpr std::size_t mostDrawn = 12;

} // namespace

PageView::PageView(ReportDraft& draft, QWidget* parent) : QAbstractScrollArea(parent), m_draft(draft) {
    setObjectName("reportPages");
    setFrameShape(NoFrame);
    viewport()->setObjectName("reportGround");
    viewport()->setCursor(Qt::ArrowCursor);
    setFocusPolicy(Qt::ClickFocus);
    connect(&draft, &ReportDraft::made, this, &PageView::follow);
    connect(&draft, &ReportDraft::chosenChanged, viewport(), qOverload<>(&QWidget::update));
}

double PageView::zoom() const {
    if (m_zoom)
        return *m_zoom;
    return std::clamp((viewport()->width() - 2 * gap) / pageWidthMm, leastZoom, widestMm);
}

void PageView::setZoom(std::optional<double> zoom) {
    const double share = verticalScrollBar()->maximum() > 0
                             ? static_cast<double>(verticalScrollBar()->value()) / verticalScrollBar()->maximum()
                             : 0;
    m_zoom = zoom ? std::optional(std::clamp(*zoom, leastZoom, mostZoom)) : std::nullopt;
    layOut();
    verticalScrollBar()->setValue(static_cast<int>(std::lround(share * verticalScrollBar()->maximum())));
    emit moved();
}

double PageView::pitch() const { return std::ceil(pageHeightMm * zoom()) + gap; }

QRect PageView::pageBox(int page) const {
    const int width = static_cast<int>(std::lround(pageWidthMm * zoom()));
    const int left = std::max(gap, (viewport()->width() - width) / 2) - horizontalScrollBar()->value();
    return {left, static_cast<int>(gap + page * pitch()) - verticalScrollBar()->value(), width,
            static_cast<int>(std::lround(pageHeightMm * zoom()))};
}

int PageView::pageInSight() const {
    const auto* pages = m_draft.pages();
    if (pages == nullptr)
        return 0;
    const int middle = verticalScrollBar()->value() + viewport()->height() / 3;
    return std::clamp(static_cast<int>(middle / pitch()), 0, std::max(0, pages->count() - 1));
}

void PageView::layOut() {
    const auto* pages = m_draft.pages();
    const int count = pages == nullptr ? 0 : pages->count();
    const int height = static_cast<int>(gap + count * pitch());
    verticalScrollBar()->setRange(0, std::max(0, height - viewport()->height()));
    verticalScrollBar()->setPageStep(viewport()->height());
    verticalScrollBar()->setSingleStep(40);
    const int width = static_cast<int>(pageWidthMm * zoom()) + 2 * gap;
    horizontalScrollBar()->setRange(0, std::max(0, width - viewport()->width()));
    horizontalScrollBar()->setPageStep(viewport()->width());
    viewport()->update();
}

void PageView::follow() {
    m_drawn.clear();
    layOut();
    emit moved();
}

const QImage& PageView::picture(int page) {
    if (m_drawnAt != zoom()) {
        m_drawn.clear();
        m_drawnAt = zoom();
    }
    if (m_drawn.size() > mostDrawn)
        m_drawn.clear();
    auto [at, isNew] = m_drawn.try_emplace(page);
    if (isNew) {
        const double ratio = devicePixelRatioF();
        at->second = m_draft.pages()->picture(page, zoom() * 25.4 * ratio);
        at->second.setDevicePixelRatio(ratio);
    }
    return at->second;
}

void PageView::paintEvent(QPaintEvent*) {
    QPainter painter(viewport());
    painter.fillRect(viewport()->rect(), QColor(0xCF, 0xC8, 0xBB));
    const auto* pages = m_draft.pages();
    if (pages == nullptr)
        return;
    for (int page = 0; page < pages->count(); ++page) {
        const auto box = pageBox(page);
        if (!box.intersects(viewport()->rect()))
            continue;
        painter.drawImage(box.topLeft(), picture(page));
    }
    for (const auto& stretch : pages->stretchesOf(m_draft.chosen())) {
        const auto box = pageBox(stretch.page);
        painter.fillRect(QRectF(box.left() + (marginMm - 4) * zoom(), box.top() + stretch.top * zoom(), 3,
                                (stretch.bottom - stretch.top) * zoom()),
                         theme::ember);
    }
}

void PageView::resizeEvent(QResizeEvent* event) {
    QAbstractScrollArea::resizeEvent(event);
    layOut();
    emit moved();
}

void PageView::scrollContentsBy(int, int) {
    viewport()->update();
    emit moved();
}

std::optional<PageView::Place> PageView::placeAt(const QPoint& pixel) const {
    const auto* pages = m_draft.pages();
    for (int page = 0; pages != nullptr && page < pages->count(); ++page)
        if (const auto box = pageBox(page); box.contains(pixel))
            return Place{page, QPointF(pixel - box.topLeft()) / zoom()};
    return std::nullopt;
}

std::optional<std::size_t> PageView::partAt(const QPoint& pixel) const {
    const auto place = placeAt(pixel);
    return place ? m_draft.pages()->partAt(place->page, place->at) : std::nullopt;
}

void PageView::mousePressEvent(QMouseEvent* event) {
    if (const auto part = partAt(event->pos()))
        m_draft.choose(m_draft.document()->parts[*part].block);
}

void PageView::mouseDoubleClickEvent(QMouseEvent*) { emit textWanted(); }

void PageView::wheelEvent(QWheelEvent* event) {
    if (event->modifiers() != Qt::ControlModifier)
        return QAbstractScrollArea::wheelEvent(event);
    setZoom(zoom() * std::pow(1.2, event->angleDelta().y() / 120.0));
}

void PageView::contextMenuEvent(QContextMenuEvent* event) {
    const auto part = partAt(event->pos());
    if (!part)
        return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    addCopyActions(*menu, m_draft.document()->parts[*part]);
    if (menu->isEmpty())
        return delete menu;
    menu->popup(event->globalPos());
}

void PageView::showEvent(QShowEvent* event) {
    QAbstractScrollArea::showEvent(event);
    m_draft.setShown(true);
}

void PageView::hideEvent(QHideEvent* event) {
    QAbstractScrollArea::hideEvent(event);
    m_draft.setShown(false);
}

// Where it is out of sight.
void PageView::showBlock(std::size_t block) {
    if (m_draft.pages() == nullptr)
        return;
    const auto stretches = m_draft.pages()->stretchesOf(block);
    if (stretches.empty())
        return;
    const auto top = static_cast<int>(gap + stretches.front().page * pitch() + stretches.front().top * zoom());
    const int now = verticalScrollBar()->value();
    if (top < now || top > now + viewport()->height() * 2 / 3)
        verticalScrollBar()->setValue(top - 2 * gap);
}

} // namespace pyro
