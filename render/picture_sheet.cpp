#include "render/picture_sheet.h"

#include "core/units/display.h"
#include "render/drawing_file.h"
#include "render/palette.h"
#include "render/seen.h"
#include "render/text.h"

#include <QFontMetricsF>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace pyro {
namespace {

constexpr int ticks = 5;
// Lengths in letters of 12 dots.
constexpr double bandBeneath = 54;
constexpr double markRows = 20; // more where limits are named

constexpr double bandBeside = 96;
constexpr double captionBand = 22;
constexpr double legendWidth = 150;

// Pixels for a length at letters of 12 dots, which are 9 points.
double unit(const SheetLook& look) { return look.points / 9 * look.ratio; }

QColor inkOf(const SheetLook& look) {
    return look.ground == SheetGround::Graphite ? QColor(0xE8, 0xEB, 0xEE) : QColor(0x22, 0x26, 0x2B);
}

QFont fontOf(const SheetLook& look, double share = 1) {
    QFont font("Inter");
    font.setPixelSize(std::max(1, static_cast<int>(std::lround(12 * unit(look) * share))));
    return font;
}

struct SheetPlan {
    QRectF view;
    QRectF scale;
    QRectF caption;
    QRectF legend;
    QSizeF size;
};

SheetPlan planOf(const QSizeF& view, const SheetLook& look, bool hasScale, bool hasLegend, bool hasMarks,
                 double captionWidth = 1e9) {
    const double one = unit(look);
    SheetPlan plan;
    plan.view = {{0, 0}, view};
    double width = view.width();
    double height = view.height();
    const auto place = hasScale ? look.scale : ScalePlace::None;
    if (place == ScalePlace::Beside) {
        plan.scale = {width, 0, bandBeside * one, height};
        width += bandBeside * one;
    } else if (place == ScalePlace::Inside) {
        plan.scale = {width - bandBeside * one, 0.25 * height, bandBeside * one, 0.7 * height};
    }
    if (hasLegend) {
        plan.legend = {width, 0, legendWidth * one, height};
        width += legendWidth * one;
    }
    if (place == ScalePlace::Beneath) {
        const double band = (bandBeneath + (hasMarks ? markRows : 0)) * one;
        plan.caption = {14 * one, height, std::min(width * 0.36, captionWidth), band};
        const double left = plan.caption.right() + (hasMarks ? 80 : 40) * one; // room for "limits"
        plan.scale = {left, height, std::max(0.1 * width, width - left - 70 * one), band};
        height += band;
    } else {
        plan.caption = {14 * one, height, width - 28 * one, captionBand * one};
        height += captionBand * one;
    }
    plan.size = {width, height};
    return plan;
}

SheetPlan planOf(const PictureSheet& sheet, const SheetLook& look) {
    return planOf(sheet.view.size(), look, sheet.scale.has_value(), !sheet.legend.empty(),
                  sheet.scale && !sheet.scale->marks.empty(),
                  sheet.scale ? 1.02 * QFontMetricsF(fontOf(look)).horizontalAdvance(q(sheet.scale->caption)) : 0);
}

double valueAt(const ScaleCaption& scale, double share) {
    return scale.logarithmic ? scale.range[0] * std::pow(scale.range[1] / scale.range[0], share)
                             : scale.range[0] + share * (scale.range[1] - scale.range[0]);
}

double shareOf(const ScaleCaption& scale, double value) {
    const double share = scale.logarithmic
                             ? std::log(value / scale.range[0]) / std::log(scale.range[1] / scale.range[0])
                             : (value - scale.range[0]) / (scale.range[1] - scale.range[0]);
    return std::isfinite(share) ? share : -1;
}

// The colours, low at the left or at the bottom. One picture: pieces side by side would show seams.
void drawStrip(QPainter& painter, const QRectF& bar, const StripView& strip) {
    const bool upright = bar.height() > bar.width();
    const int pieces = strip.bands > 1 ? strip.bands : 256;
    QImage colours(upright ? 1 : pieces, upright ? pieces : 1, QImage::Format_RGB32);
    for (int i = 0; i < pieces; ++i) {
        const auto rgb = stripColour(strip, (i + 0.5) / pieces);
        colours.setPixelColor(
            upright ? 0 : i, upright ? pieces - 1 - i : 0,
            QColor::fromRgbF(static_cast<float>(rgb[0]), static_cast<float>(rgb[1]), static_cast<float>(rgb[2])));
    }
    const int along = static_cast<int>(std::max(bar.width(), bar.height()));
    painter.drawImage(bar, upright ? colours.scaled(1, along) : colours.scaled(along, 1));
}

// Those of the range; of values that lie on each other one mark with all their names.
std::vector<std::pair<double, QString>> marksOf(const ScaleCaption& scale) {
    std::vector<std::pair<double, QString>> out;
    for (const auto& mark : scale.marks) {
        const double share = shareOf(scale, mark.value);
        if (share < 0 || share > 1)
            continue;
        const auto same = std::ranges::find_if(out,
                                               [&](const auto& one) { return std::abs(one.first - share) < 0.02; });
        if (same == out.end())
            out.emplace_back(share, q(mark.text));
        else if (!same->second.contains(q(mark.text)))
            same->second += ", " + q(mark.text);
    }
    std::ranges::sort(out, {}, [](const auto& one) { return one.first; });
    return out;
}

QString tickText(const ScaleCaption& scale, int tick) {
    const auto text = q(formatNumber(valueAt(scale, tick / (ticks - 1.0))));
    return tick == ticks - 1 ? text + " " + q(scale.unit) : text;
}

void drawScaleBeneath(QPainter& painter, const QRectF& area, const ScaleCaption& scale, const SheetLook& look) {
    const double one = unit(look);
    const auto marks = marksOf(scale);
    const QRectF bar(area.left(), area.top() + (marks.empty() ? 10 : 32) * one, area.width(), 14 * one);
    drawStrip(painter, bar, scale.strip);
    for (int i = 0; i < ticks; ++i)
        painter.drawText(QRectF(bar.left() + i / (ticks - 1.0) * bar.width() - 60 * one, bar.bottom() + 3 * one,
                                120 * one, 18 * one),
                         Qt::AlignCenter, tickText(scale, i));
    painter.save();
    painter.setFont(fontOf(look, 0.8));
    std::array<double, 2> free{-1e9, -1e9}; // where the next name may begin, in the row beside the bar and above it
    for (const auto& [share, text] : marks) {
        const double x = bar.left() + share * bar.width();
        const double wide = painter.fontMetrics().horizontalAdvance(text);
        const double left = std::clamp(x - wide / 2, bar.left() - 30 * one,
                                       std::max(bar.left(), bar.right() - wide + 30 * one));
        const std::size_t row = left >= free[0] ? 0 : left >= free[1] ? 1 : 2;
        const double up = row == 1 ? 14 * one : 0;
        painter.setPen(QPen(inkOf(look), 1.6 * one));
        painter.drawLine(QPointF(x, bar.top() - 3 * one - up), QPointF(x, bar.bottom()));
        if (row > 1) // no room for its name
            continue;
        free[row] = left + wide + 6 * one;
        painter.drawText(QRectF(left, bar.top() - 17 * one - up, wide + 2, 14 * one), Qt::AlignLeft | Qt::AlignVCenter,
                         text);
    }
    if (!marks.empty())
        painter.drawText(QRectF(bar.left() - 60 * one, bar.top() - 17 * one, 54 * one, 14 * one),
                         Qt::AlignRight | Qt::AlignVCenter, "limits");
    painter.restore();
}

void drawScaleUpright(QPainter& painter, const QRectF& area, const ScaleCaption& scale, const SheetLook& look) {
    const double one = unit(look);
    if (look.scale == ScalePlace::Inside && look.ground != SheetGround::Transparent) { // readable whatever lies behind
        auto ground = look.ground == SheetGround::Graphite ? QColor(0x20, 0x25, 0x2B) : QColor(Qt::white);
        ground.setAlpha(215);
        painter.fillRect(area, ground);
    }
    const QRectF bar(area.left() + 10 * one, area.top() + 26 * one, 14 * one, area.height() - 40 * one);
    drawStrip(painter, bar, scale.strip);
    painter.drawText(QRectF(bar.left(), area.top() + 2 * one, 80 * one, 18 * one), Qt::AlignLeft | Qt::AlignVCenter,
                     q(scale.unit));
    for (int i = 0; i < ticks; ++i)
        painter.drawText(QRectF(bar.right() + 5 * one, bar.bottom() - i / (ticks - 1.0) * bar.height() - 9 * one,
                                70 * one, 18 * one),
                         Qt::AlignLeft | Qt::AlignVCenter, q(formatNumber(valueAt(scale, i / (ticks - 1.0)))));
    painter.save();
    painter.setFont(fontOf(look, 0.8));
    for (const auto& [share, text] : marksOf(scale)) {
        const double y = bar.bottom() - share * bar.height();
        painter.setPen(QPen(inkOf(look), 1.6 * one));
        painter.drawLine(QPointF(bar.left(), y), QPointF(bar.right() + 3 * one, y));
        double at = y; // beside the ticks, which stand at quarters
        if (const double off = std::remainder(share, 0.25) * bar.height(); std::abs(off) < 13 * one)
            at = y - (off >= 0 ? 13 * one - off : -13 * one - off);
        painter.drawText(QRectF(bar.right() + 5 * one, at - 8 * one, area.right() - bar.right() - 5 * one, 16 * one),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(text, Qt::ElideRight,
                                                          static_cast<int>(area.right() - bar.right() - 5 * one)));
    }
    painter.restore();
}

// In two columns at the sides of the view, ordered as their places are, so that no line crosses another.
void drawLabels(QPainter& painter, const QRectF& view, const std::vector<SheetLabel>& labels, const SheetLook& look) {
    const double one = unit(look);
    const double height = 17 * one;
    const auto fits = static_cast<std::size_t>(std::max(0.0, (view.height() - 10 * one) / height));
    painter.save();
    painter.setFont(fontOf(look, 0.9));
    for (const bool left : {true, false}) {
        std::vector<const SheetLabel*> side;
        for (const auto& label : labels)
            if ((label.at.x() < view.center().x()) == left)
                side.push_back(&label);
        std::ranges::sort(side, {}, [](const SheetLabel* label) { return label->at.y(); });
        side.resize(std::min(side.size(), fits));
        double least = view.top() + 5 * one;
        for (std::size_t i = 0; i < side.size(); ++i) {
            const double most = view.bottom() - 5 * one - static_cast<double>(side.size() - i) * height;
            const double y = std::clamp(side[i]->at.y() - height / 2, std::min(least, most), std::max(least, most));
            const double top = std::max(least, std::min(y, most));
            least = top + height;
            const double wide = painter.fontMetrics().horizontalAdvance(side[i]->text) + 8 * one;
            const QRectF box(left ? view.left() + 6 * one : view.right() - 6 * one - wide, top, wide, height - 2 * one);
            const QPointF edge(left ? box.right() : box.left(), box.center().y());
            QColor ground = look.ground == SheetGround::Graphite ? QColor(0x20, 0x25, 0x2B) : QColor(Qt::white);
            painter.setPen(QPen(ground, 2.6 * one)); // seen on whatever it crosses
            painter.drawLine(edge, side[i]->at);
            painter.setPen(QPen(inkOf(look), 1 * one));
            painter.drawLine(edge, side[i]->at);
            painter.setBrush(inkOf(look));
            painter.drawEllipse(side[i]->at, 2 * one, 2 * one);
            ground.setAlpha(225);
            painter.fillRect(box, ground);
            painter.drawText(box, Qt::AlignCenter, side[i]->text);
        }
    }
    painter.restore();
}

void drawLegend(QPainter& painter, const QRectF& area, const std::vector<LegendEntry>& legend, const SheetLook& look) {
    const double one = unit(look);
    double y = area.top() + 10 * one;
    std::size_t drawn = 0;
    for (const auto& entry : legend) {
        if (y + 34 * one > area.bottom() && drawn + 1 < legend.size()) {
            painter.drawText(QRectF(area.left() + 10 * one, y, area.width() - 14 * one, 16 * one),
                             Qt::AlignLeft | Qt::AlignVCenter, QString("and %1 more").arg(legend.size() - drawn));
            return;
        }
        const QRectF tone(area.left() + 10 * one, y + 3 * one, 10 * one, 10 * one);
        if (entry.tone)
            painter.fillRect(tone, *entry.tone);
        const double left = entry.tone ? tone.right() + 6 * one : tone.left();
        painter.drawText(QRectF(left, y, area.right() - left - 4 * one, 16 * one), Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(entry.text, Qt::ElideRight,
                                                          static_cast<int>(area.right() - left - 4 * one)));
        y += 17 * one;
        ++drawn;
    }
}

} // namespace

std::optional<ScaleCaption> scaleOf(const Seen& seen) {
    const auto range = shownRange(seen);
    if (!range)
        return std::nullopt;
    const auto unit = unitOf(seen);
    ScaleCaption out;
    out.unit = unitText(unit.symbol());
    out.range = {unit.of((*range)[0]), unit.of((*range)[1])};
    out.logarithmic = isLogarithmic(seen);
    out.strip = seen.view().field.strip;
    return out;
}

QSize viewSize(const QSize& size, const SheetLook& look, bool hasLegend, bool hasMarks) {
    const auto plan = planOf({1000, 1000}, look, true, hasLegend, hasMarks);
    return {std::max(64, size.width() - static_cast<int>(plan.size.width() - 1000)),
            std::max(64, size.height() - static_cast<int>(plan.size.height() - 1000))};
}

QSize sheetSize(const PictureSheet& sheet, const SheetLook& look) { return planOf(sheet, look).size.toSize(); }

void drawSheet(QPainter& painter, const PictureSheet& sheet, const SheetLook& look) {
    const auto plan = planOf(sheet, look);
    painter.save();
    painter.setRenderHints(QPainter::Antialiasing | QPainter::TextAntialiasing);
    if (look.ground != SheetGround::Transparent)
        painter.fillRect(QRectF({0, 0}, plan.size),
                         look.ground == SheetGround::White ? QColor(Qt::white) : QColor(0x20, 0x25, 0x2B));
    painter.drawImage(plan.view, sheet.view);
    painter.setFont(fontOf(look));
    painter.setPen(inkOf(look));
    if (sheet.scale) {
        const auto words = painter.fontMetrics().elidedText(q(sheet.scale->caption), Qt::ElideRight,
                                                            static_cast<int>(plan.caption.width()));
        painter.drawText(plan.caption, Qt::AlignVCenter | Qt::AlignLeft, words);
        if (look.scale == ScalePlace::Beneath)
            drawScaleBeneath(painter, plan.scale, *sheet.scale, look);
        else if (look.scale != ScalePlace::None)
            drawScaleUpright(painter, plan.scale, *sheet.scale, look);
    }
    drawLabels(painter, plan.view, sheet.labels, look);
    if (!sheet.legend.empty())
        drawLegend(painter, plan.legend, sheet.legend, look);
    painter.restore();
}

QSize sizeOf(const std::vector<PictureSheet>& sheets, const SheetLook& look) {
    QSize all(0, 0);
    for (const auto& sheet : sheets) {
        const auto size = sheetSize(sheet, look);
        all = {all.width() + size.width(), std::max(all.height(), size.height())};
    }
    return all;
}

void drawSheets(QPainter& painter, const std::vector<PictureSheet>& sheets, const SheetLook& look) {
    for (const auto& sheet : sheets) {
        drawSheet(painter, sheet, look);
        painter.translate(sheetSize(sheet, look).width(), 0);
    }
}

QImage imageOf(const PictureSheet& sheet, const SheetLook& look) { return imageOf(std::vector{sheet}, look); }

QImage imageOf(const std::vector<PictureSheet>& sheets, const SheetLook& look) {
    const bool clear = look.ground == SheetGround::Transparent;
    QImage out(sizeOf(sheets, look), clear ? QImage::Format_ARGB32_Premultiplied : QImage::Format_RGB32);
    out.fill(clear                                  ? QColor(Qt::transparent)
             : look.ground == SheetGround::Graphite ? QColor(0x20, 0x25, 0x2B)
                                                    : QColor(Qt::white));
    QPainter painter(&out);
    drawSheets(painter, sheets, look);
    painter.end();
    out.setDevicePixelRatio(look.ratio);
    return out;
}

std::string svgOf(const std::vector<PictureSheet>& sheets, const SheetLook& look) {
    return svgOf(sizeOf(sheets, look), paintedBy([&](QPainter& painter) { drawSheets(painter, sheets, look); }));
}

Done writeSheets(const std::vector<PictureSheet>& sheets, const SheetLook& look, const std::filesystem::path& file) {
    if (file.extension() == ".png")
        return writePicture(imageOf(sheets, look), file);
    return writeDrawing("the picture", file, sizeOf(sheets, look),
                        paintedBy([&](QPainter& painter) { drawSheets(painter, sheets, look); }));
}

} // namespace pyro
