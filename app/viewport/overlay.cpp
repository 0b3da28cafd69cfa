#include "app/viewport/overlay.h"

#include "app/theme/theme.h"
#include "app/viewport/viewport.h"
#include "core/limits/judge.h"
#include "core/report/limit_text.h"
#include "core/units/millimetres.h"
#include "render/verdict_mark.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

const LimitReading* limitOf(const Readings& readings, const std::string& part) {
    for (const auto at : byMargin(readings.limits))
        if (readings.limits[at].target == LimitTarget{TargetKind::Part, part})
            return &readings.limits[at];
    return nullptr;
}

QString marginText(const LimitReading& limit, TemperatureUnit unit) {
    if (!limit.margin)
        return QString::fromStdString(limit.why);
    const auto size = QString::fromStdString(limit.isTemperature ? formatDifference({std::abs(*limit.margin)}, unit)
                                                                 : limitDifference(limit, std::abs(*limit.margin)));
    if (*limit.margin < 0)
        return size + (limit.isMaximum ? " over its limit" : " below its limit");
    return size + (limit.verdict == Verdict::Tight ? " left, less than required" : " left to its limit");
}

} // namespace

Overlay::Overlay(Session& session, Viewport& viewport) : QWidget(&viewport), m_session(session), m_viewport(viewport) {
    setAttribute(Qt::WA_TransparentForMouseEvents);
}

void Overlay::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    draw(painter);
}

void Overlay::draw(QPainter& painter, bool light) {
    m_light = light;
    painter.setRenderHint(QPainter::Antialiasing);
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->picture) {
        drawEmpty(painter);
        return;
    }
    drawAxes(painter);
    if (m_session.view().field.isotherms.labels)
        drawIsothermLabels(painter);
    drawLabels(painter);
    drawMaterials(painter);
    m_viewport.handle().draw(painter);
    m_viewport.placer().draw(painter);
    m_viewport.gaugeHandle().draw(painter);
    if (state->picture->quantity.name == "temperature") {
        drawPins(painter);
        drawCallout(painter);
    } else {
        drawExtremes(painter);
    }
}

void Overlay::drawEmpty(QPainter& painter) {
    painter.setPen(QColor(0x9A, 0xA1, 0xAA));
    const auto* state = m_session.activeCase();
    QString text = "Open a case with Ctrl+O, or a survey with Ctrl+Shift+O";
    if (state != nullptr && state->error)
        text = "This case cannot be shown. " + QString::fromStdString(state->error->what);
    else if (state != nullptr)
        text = "Reading the case \u2026";
    painter.drawText(rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap, text);
}

void Overlay::drawAxes(QPainter& painter) {
    const QPointF origin(52, height() - 46);
    const auto camera = m_session.view().camera;
    if (!camera)
        return;
    Point out{};
    double length = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        out[axis] = camera->focus[axis] - camera->position[axis];
        length += out[axis] * out[axis];
    }
    length = std::sqrt(length);
    const auto& up = camera->up;
    const Point right{(out[1] * up[2] - out[2] * up[1]) / length, (out[2] * up[0] - out[0] * up[2]) / length,
                      (out[0] * up[1] - out[1] * up[0]) / length};
    painter.setPen(QPen(m_light ? lineColour() : QColor(0xC9, 0xCE, 0xD4), 1.4));
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const QPointF tip(right[axis] * 30, -up[axis] * 30);
        if (std::hypot(tip.x(), tip.y()) < 4)
            continue;
        painter.drawLine(origin, origin + tip);
        painter.drawText(QRectF(origin + tip * 1.32 - QPointF(8, 8), QSizeF(16, 16)), Qt::AlignCenter,
                         QString("xyz").mid(static_cast<int>(axis), 1));
    }
}

// One or two labels for each heavy or marked line, at places that are in sight and do not crowd each other.
void Overlay::drawIsothermLabels(QPainter& painter) {
    QFont small = font();
    small.setPixelSize(11);
    small.setWeight(QFont::DemiBold);
    painter.setFont(small);
    const auto unit = m_session.unit();
    std::vector<QRectF> taken;
    std::map<double, int> count;
    for (const auto& line : m_viewport.isotherms()) {
        if (!line.heavy && !line.mark)
            continue;
        const double shown = unit.of(line.value);
        const bool whole = std::abs(shown - std::round(shown)) < 1e-6; // 12.6 must not read 13
        const auto text = QString::fromStdString(unit.isTemperature() ? formatNumber(shown, whole ? 0 : 1)
                                                                      : unit.number(line.value));
        const double width = painter.fontMetrics().horizontalAdvance(text) + 8;
        const auto segments = line.points.size() / 6;
        const auto step = std::max<std::size_t>(1, segments / 12);
        for (std::size_t i = step / 2; i < segments && count[line.value] < 2; i += step) {
            const Point middle{0.5 * (line.points[6 * i] + line.points[6 * i + 3]),
                               0.5 * (line.points[6 * i + 1] + line.points[6 * i + 4]),
                               0.5 * (line.points[6 * i + 2] + line.points[6 * i + 5])};
            const auto at = m_viewport.pixelOf(middle);
            const QRectF box(at.x() - width / 2, at.y() - 7, width, 14);
            const bool free = QRectF(rect()).contains(box) && std::ranges::none_of(taken, [&](const QRectF& other) {
                                  return other.adjusted(-24, -8, 24, 8).intersects(box);
                              });
            if (!free || !m_viewport.isInSight(middle))
                continue;
            taken.push_back(box);
            ++count[line.value];
            painter.setPen(Qt::NoPen);
            painter.setBrush(QColor(0x14, 0x17, 0x1B, 190));
            painter.drawRoundedRect(box, 4, 4);
            painter.setPen(line.mark ? QColor(0x63, 0xE0, 0xE8) : QColor(0xF2, 0xEF, 0xEA));
            painter.drawText(box, Qt::AlignCenter, text);
        }
    }
}

// What the colours of the materials mean, where the surfaces show them; parts without one stand under their own name.
void Overlay::drawMaterials(QPainter& painter) {
    if (m_session.view().field.isotherms.ground != Ground::Materials)
        return;
    const auto groups = materialGroups(m_session.seen());
    const auto* entry = m_session.activeEntry();
    const auto& parts = m_session.activeCase()->opened->solved->parts;
    std::vector<std::pair<std::size_t, QString>> rows;
    for (const auto part : visibleParts(m_session.seen())) {
        if (std::ranges::find(rows, groups[part], &std::pair<std::size_t, QString>::first) != rows.end())
            continue;
        const auto note = entry->parts.find(parts[part].name);
        const bool named = note != entry->parts.end() && !note->second.material.empty();
        rows.emplace_back(groups[part],
                          QString::fromStdString(named ? note->second.material
                                                       : shownName(*entry, parts[part].name) + ", no material"));
    }
    QFont small = font();
    small.setPixelSize(12);
    painter.setFont(small);
    int widest = 0;
    for (const auto& [group, name] : rows)
        widest = std::max(widest, painter.fontMetrics().horizontalAdvance(name));
    const QRectF box(width() - widest - 44, 10, widest + 34, 18.0 * static_cast<double>(rows.size()) + 8);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0x14, 0x17, 0x1B, 170));
    painter.drawRoundedRect(box, 5, 5);
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const double top = box.top() + 4 + 18.0 * static_cast<double>(i);
        const auto tone = materialTone(rows[i].first);
        painter.fillRect(
            QRectF(box.left() + 8, top + 4, 12, 10),
            QColor::fromRgbF(static_cast<float>(tone[0]), static_cast<float>(tone[1]), static_cast<float>(tone[2])));
        painter.setPen(QColor(0xE8, 0xEB, 0xEE));
        painter.drawText(QRectF(box.left() + 26, top, widest + 6, 18), Qt::AlignVCenter | Qt::AlignLeft,
                         rows[i].second);
        painter.setPen(Qt::NoPen);
    }
    painter.setFont(font());
}

// A small square at the place and its reading beside it; faint where something stands before it.
void Overlay::drawLabels(QPainter& painter) {
    const auto visible = visibleParts(m_session.seen());
    const auto unit = m_session.unit();
    QFont small = font();
    small.setPixelSize(12);
    small.setWeight(QFont::DemiBold);
    painter.setFont(small);
    for (const auto& label : m_session.labels()) {
        if (label.part && std::ranges::find(visible, *label.part) == visible.end())
            continue;
        const auto text = QString::fromStdString(!label.part    ? std::string("no part here")
                                                 : !label.value ? std::string("no value here")
                                                                : unit.text(*label.value));
        const auto at = m_viewport.pixelOf(label.at);
        QRectF box(at.x() + 9, at.y() + 5, painter.fontMetrics().horizontalAdvance(text) + 12, 18);
        if (box.right() > width() - 4)
            box.moveRight(at.x() - 9);
        painter.setOpacity(m_viewport.isInSight(label.at) ? 1 : 0.45);
        painter.setPen(QPen(QColor(0x14, 0x17, 0x1B), 1));
        painter.setBrush(QColor(0xF4, 0xF1, 0xEC));
        painter.drawRect(QRectF(at.x() - 3, at.y() - 3, 6, 6));
        painter.drawRoundedRect(box, 3, 3);
        painter.setPen(theme::ink);
        painter.drawText(box, Qt::AlignCenter, text);
        painter.setOpacity(1);
    }
    painter.setFont(font());
}

void Overlay::drawPins(QPainter& painter) {
    const auto [coldest, hottest] = visibleExtremes();
    const auto pin = [&](const std::optional<Place>& place, const QColor& colour) {
        const auto at = m_viewport.pixelOf(place->at);
        const bool seen = m_viewport.isInSight(place->at); // else it lies behind something, or is cut away
        painter.setPen(QPen(seen ? lineColour() : colour, 1.4, seen ? Qt::SolidLine : Qt::DotLine));
        painter.setBrush(seen ? QBrush(colour) : QBrush(Qt::NoBrush));
        painter.drawEllipse(at, 4, 4);
    };
    if (hottest != nullptr) {
        pin(coldest->lowest, QColor(0x3B, 0x5B, 0xA9));
        pin(hottest->highest, QColor(0xFF, 0xF3, 0xC4));
    }
}

// The parts that are seen with the smallest and the largest value on display; null where none has any.
std::array<const RegionValue*, 2> Overlay::visibleExtremes() const {
    const auto& regions = m_session.activeCase()->picture->regions;
    const RegionValue* highest = nullptr;
    const RegionValue* lowest = nullptr;
    for (const auto at : visibleParts(m_session.seen())) {
        if (at >= regions.size() || !regions[at].max)
            continue;
        highest = highest == nullptr || *regions[at].max > *highest->max ? &regions[at] : highest;
        lowest = lowest == nullptr || *regions[at].min < *lowest->min ? &regions[at] : lowest;
    }
    return {lowest, highest};
}

// The largest and the smallest value of what is seen, with their places.
void Overlay::drawExtremes(QPainter& painter) {
    const auto [lowest, highest] = visibleExtremes();
    if (highest == nullptr)
        return;
    const auto unit = m_session.unit();
    for (const auto& [text, value, place] :
         {std::tuple{"lowest ", *lowest->min, lowest->lowest->at}, {"highest ", *highest->max, highest->highest->at}}) {
        const auto at = m_viewport.pixelOf(place);
        const bool seen = m_viewport.isInSight(place);
        const auto label = text +
                           QString::fromStdString(unit.text(value) + fmt::format(" at {:.1f}  {:.1f}  {:.1f} mm",
                                                                                 millimetres(place[0], 0.1),
                                                                                 millimetres(place[1], 0.1),
                                                                                 millimetres(place[2], 0.1))) +
                           (seen ? "" : ", hidden");
        const double width = painter.fontMetrics().horizontalAdvance(label) + 12;
        QRectF box(std::clamp(at.x() + 14, 8.0, std::max(8.0, this->width() - width - 8)),
                   std::clamp(at.y() - 26, 46.0, std::max(46.0, height() - 26.0)), width, 18);
        painter.setPen(QPen(lineColour(), 1.2, seen ? Qt::SolidLine : Qt::DashLine));
        painter.setBrush(seen ? QBrush(theme::ember) : QBrush(Qt::NoBrush));
        painter.drawLine(at, box.bottomLeft());
        painter.drawEllipse(at, 4, 4);
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(0x14, 0x17, 0x1B, 210));
        painter.drawRoundedRect(box, 4, 4);
        painter.setPen(QColor(0xF2, 0xEF, 0xEA));
        painter.drawText(box, Qt::AlignCenter, label);
    }
}

void Overlay::drawCallout(QPainter& painter) {
    const auto* part = partInFocus(m_session.seen(), m_session.selection().selectedPart());
    if (part == nullptr)
        return;
    const auto* state = m_session.activeCase();
    const auto unit = m_session.view().unit;
    const auto* limit = limitOf(*state->readings, part->name);
    const bool belowMinimum = limit != nullptr && limit->margin && !limit->isMaximum;
    const auto place = belowMinimum ? part->coldest : part->hottest;
    const auto anchor = m_viewport.pixelOf(place->at);
    const auto title = QString::fromStdString(shownName(*m_session.activeEntry(), part->name) + " " +
                                              formatTemperature(belowMinimum ? *part->min : *part->max, unit));
    const auto line = limit != nullptr ? marginText(*limit, unit) : QString("no limit set");

    QFont bold = font();
    bold.setWeight(QFont::DemiBold);
    const int textWidth = std::max(QFontMetrics(bold).horizontalAdvance(title), fontMetrics().horizontalAdvance(line));
    QRectF box(anchor.x() + 46, anchor.y() - 76, textWidth + 44, 42);
    if (box.right() > width() - 8)
        box.moveRight(anchor.x() - 46);
    box.moveLeft(std::clamp(box.left(), 8.0, std::max(8.0, width() - box.width() - 8)));
    box.moveTop(std::clamp(box.top(), 46.0, std::max(46.0, height() - box.height() - 8)));

    const bool seen = m_viewport.isInSight(place->at);
    painter.setPen(QPen(lineColour(), 1.2, seen ? Qt::SolidLine : Qt::DashLine));
    painter.drawLine(anchor, QPointF(box.left() > anchor.x() ? box.left() : box.right(), box.center().y()));
    painter.setBrush(seen ? QBrush(theme::ember) : QBrush(Qt::NoBrush));
    painter.drawEllipse(anchor, 4.5, 4.5);
    painter.setPen(m_light ? QPen(lineColour(), 0.8) : QPen(Qt::NoPen));
    painter.setBrush(Qt::white);
    painter.drawRoundedRect(box, 5, 5);
    const auto verdict = limit != nullptr ? limit->verdict : Verdict::Unknown;
    drawVerdict(painter, QRectF(box.left() + 12, box.center().y() - 5, 10, 10), verdict);
    painter.setPen(theme::ink);
    painter.setFont(bold);
    painter.drawText(box.adjusted(32, 4, 0, -20), Qt::AlignVCenter, title);
    painter.setFont(font());
    painter.setPen(verdict == Verdict::Over ? verdictColour(verdict) : theme::faint);
    painter.drawText(box.adjusted(32, 21, 0, -3), Qt::AlignVCenter, line);
}

} // namespace pyro
