#include "app/stages/compare/compare_view.h"

#include "app/theme/theme.h"
#include "core/units/display.h"
#include "render/palette.h"
#include "render/text.h"

#include <QMouseEvent>
#include <cmath>
#include <fmt/format.h>
#include <utility>

namespace pyro {

namespace {

bool isMeasured(const SurveyRun& run, const std::string& caseName) {
    return std::ranges::any_of(run.cases,
                               [&](const CaseRun& one) { return one.name == caseName && !one.measured.empty(); });
}

} // namespace

CompareView::CompareView(Session& session, QWidget* parent)
    : QWidget(parent), m_session(session), m_differences(session, this), m_grid(new QGridLayout(this)),
      m_clip(new QWidget(this)), m_handle(new QWidget(this)) {
    setObjectName("compareView");
    setAttribute(Qt::WA_StyledBackground);
    m_grid->setContentsMargins(0, 0, 0, 0);
    m_grid->setSpacing(1);
    m_clip->hide();
    m_handle->setObjectName("wipeHandle");
    m_handle->setAttribute(Qt::WA_StyledBackground);
    m_handle->setCursor(Qt::SplitHCursor);
    m_handle->setToolTip("Drag to wipe from one case to the other");
    m_handle->installEventFilter(this);
    m_handle->hide();
    session.listen(this, contents, &CompareView::refresh);
    session.listen(this, Change::Camera, [this](CompareView*) {
        if (const auto& camera = m_session.view().camera)
            for (auto* pane : m_panes)
                pane->setCamera(*camera);
    });
    connect(&m_differences, &DifferenceKeeper::changed, this, &CompareView::refresh);
}

void CompareView::showEvent(QShowEvent*) { refresh(); }

std::vector<CompareView::Wanted> CompareView::wanted() const {
    std::vector<Wanted> panes;
    const auto cases = m_session.comparedCases();
    const auto& look = m_session.view().compare;
    for (std::size_t i = 0; i < cases.size(); ++i) {
        if (look.show == CompareShow::Measured ? !isMeasured(m_session.openRun(), cases[i]->name)
                                               : i > 0 && look.left.contains(cases[i]->name))
            continue;
        panes.push_back({cases[i], i > 0 && look.show == CompareShow::Difference});
    }
    panes.resize(std::min(panes.size(), look.show == CompareShow::Wipe ? std::size_t{2} : mostPanes));
    return panes;
}

// As set, else over what is seen in all panes.
std::array<double, 2> CompareView::commonRange(const std::vector<Wanted>& panes) const {
    if (m_session.view().range)
        return *m_session.view().range;
    std::array<double, 2> range{std::nan(""), std::nan("")};
    for (const auto& pane : panes)
        if (const auto seen = m_session.seenOf(*pane.entry); seen.picture) {
            const auto own = visibleRange(seen);
            range = {std::fmin(range[0], own[0]), std::fmax(range[1], own[1])};
        }
    return range;
}

namespace {

// The measured places of a case; of pictures, whose pixels lie too close, none.
std::vector<PaneLabel> labelsOf(const SurveyRun& run, const std::string& caseName) {
    std::vector<PaneLabel> labels;
    for (const auto& one : run.cases)
        for (const auto& reading : one.measured) {
            if (one.name != caseName || reading.picture || !reading.largest)
                continue;
            const double most = std::abs(*reading.largest);
            std::map<std::string, PaneLabel> byName; // the last time of each
            for (const auto& point : reading.points) {
                if (!point.at || !point.deviation)
                    continue;
                const auto colour = paletteColour(PaletteName::Tide,
                                                  0.5 + 0.5 * *point.deviation / (most > 0 ? most : 1));
                const bool beyond = point.normalised && std::abs(*point.normalised) > 1;
                const auto deviation = fmt::format("{:+.1f} {}", *point.deviation, unitText(reading.differenceUnit));
                byName[point.name] = {*point.at, q(beyond ? point.name + " " + deviation : deviation),
                                      QColor::fromRgbF(static_cast<float>(colour[0]), static_cast<float>(colour[1]),
                                                       static_cast<float>(colour[2])),
                                      beyond};
            }
            for (auto& [name, label] : byName)
                labels.insert(label.beyond ? labels.begin() : labels.end(), std::move(label)); // they have the choice
        }
    return labels;
}

} // namespace

PaneLook CompareView::caseLook(const CaseEntry& entry, const std::array<double, 2>& range) const {
    PaneLook look;
    look.title = q(entry.name);
    const auto* state = m_session.stateOf(entry);
    if (state != nullptr && state->error)
        look.words = q("cannot be read: " + state->error->what);
    const auto seen = m_session.seenOf(entry);
    look.picture = state != nullptr && !state->error ? seen.picture : nullptr;
    if (!look.picture) {
        look.words = look.words.isEmpty() ? QString("being read\u2026") : look.words;
        return look;
    }
    look.orders = state->orders;
    look.visible = visibleParts(seen);
    look.range = range;
    look.strip = m_session.view().field.strip;
    look.logarithmic = isLogarithmic(seen);
    look.isotherms = isothermRule(seen);
    if (m_session.view().compare.deviations)
        look.labels = labelsOf(m_session.openRun(), entry.name);
    look.unit = unitOf(seen);
    const auto own = visibleRange(seen);
    if (std::isfinite(own[1]))
        look.figure = q(look.unit.text(own[1]));
    const auto step = state->shownStep();
    if (step.time && state->series.steps.size() > 1)
        look.title += q(fmt::format(", t = {:g} s", *step.time));
    if (look.picture->quantity.name != m_session.view().quantity)
        look.words = q("no " + m_session.view().quantity + " here: " + look.picture->quantity.name);
    return look;
}

PaneLook CompareView::differenceLook(const CaseEntry& entry, const CaseEntry& baseline) {
    PaneLook look;
    look.title = q(entry.name + " \u2212 " + baseline.name);
    look.isDifference = true;
    const auto& made = m_differences.of(entry, baseline);
    if (!made.why.empty())
        look.words = q(made.why);
    else if (!made.picture)
        look.words = "being subtracted\u2026";
    look.picture = made.picture;
    if (!made.picture)
        return look;
    const auto* state = m_session.stateOf(entry);
    if (state == nullptr || !state->opened) // it is being read anew
        return look;
    auto seen = m_session.seenOf(entry);
    seen.picture = made.picture;
    look.orders = state->orders;
    look.visible = visibleParts(seen);
    const auto own = visibleRange(seen);
    const double most = std::fmax(std::abs(own[0]), std::abs(own[1]));
    look.range = {-most, most};
    look.strip = m_session.view().field.strip;
    look.strip.palette = PaletteName::Tide;
    look.strip.reversed = false;
    look.unit = m_session.unitOf(made.picture->quantity);
    const auto signedText = [&](double value) { return (value > 0 ? "+" : "") + look.unit.text(value); };
    if (std::isfinite(most))
        look.figure = q(signedText(own[0]) + " \u2026 " + signedText(own[1]));
    if (m_session.view().field.isotherms.shown && most > 0) {
        const double end = look.unit.of(most);
        const double spacing = niceSpacing(-end, end, 12);
        look.isotherms = LevelRule{
            0, look.unit.si(spacing) - look.unit.si(0), m_session.view().field.isotherms.heavyEvery, {}};
        look.title += q("\nisolines every " + look.unit.text(look.isotherms->spacing));
    }
    if (made.covered < 1)
        look.title += q(fmt::format("\n{} has no partner (hatched)", formatShare(1 - made.covered)));
    if (!made.when.empty())
        look.title += q("\nbaseline " + made.when);
    return look;
}

void CompareView::lay(std::size_t count) {
    const bool wipe = m_session.view().compare.show == CompareShow::Wipe && count == 2;
    if (m_panes.size() == count && wipe == m_wiping)
        return;
    m_wiping = wipe;
    for (auto* pane : m_panes)
        delete pane;
    m_panes.clear();
    const std::size_t columns = count <= 3 ? count : (count + 1) / 2;
    for (std::size_t i = 0; i < count; ++i) {
        auto* pane = new Pane(wipe && i == 1 ? m_clip : this);
        if (!wipe || i == 0)
            m_grid->addWidget(pane, static_cast<int>(i / columns), static_cast<int>(i % columns));
        else
            pane->show();
        connect(pane, &Pane::pointed, this, &CompareView::pointAt);
        connect(pane, &Pane::turned, this, [this, pane] { follow(*pane); });
        connect(pane, &Pane::released, this, [this, pane] {
            for (auto* one : m_panes)
                one->setMoving(false);
            m_session.moveCamera(pane->camera());
        });
        pane->setWhole(size());
        m_panes.push_back(pane);
    }
    m_clip->setVisible(wipe);
    m_handle->setVisible(wipe);
    placeWipe();
}

void CompareView::refresh() {
    if (!isVisible())
        return;
    const auto panes = wanted();
    lay(panes.size());
    if (panes.empty())
        return;
    const auto range = commonRange(panes);
    for (std::size_t i = 0; i < panes.size(); ++i) {
        auto look = panes[i].difference ? differenceLook(*panes[i].entry, *panes[0].entry)
                                        : caseLook(*panes[i].entry, range);
        look.onRight = m_wiping && i == 1;
        if (m_wiping && i == 0 && !look.figure.isEmpty()) // which would lie beneath the other
            look.title += "   " + std::exchange(look.figure, QString());
        m_panes[i]->setLook(std::move(look), m_session.view());
    }
    // without a camera of its own each pane would fit its case for itself
    if (!m_session.view().camera && m_panes[0]->look().picture)
        follow(*m_panes[0]);
}

void CompareView::follow(Pane& moved) {
    const auto camera = moved.camera();
    for (auto* pane : m_panes) {
        pane->setMoving(true);
        if (pane != &moved)
            pane->setCamera(camera);
    }
    if (QGuiApplication::mouseButtons() == Qt::NoButton)
        for (auto* pane : m_panes)
            pane->setMoving(false);
}

void CompareView::pointAt(const std::optional<QPointF>& at) {
    for (auto* pane : m_panes)
        pane->point(at);
}

void CompareView::fit() {
    if (m_panes.empty())
        return;
    m_panes[0]->fit();
    follow(*m_panes[0]);
    m_session.moveCamera(m_panes[0]->camera());
}

void CompareView::placeWipe() {
    if (!m_wiping)
        return;
    const int from = static_cast<int>(m_session.view().compare.wipe * width());
    m_clip->setGeometry(from, 0, width() - from, height());
    m_panes[1]->setGeometry(-from, 0, width(), height());
    m_handle->setGeometry(from - 3, 0, 6, height());
    m_clip->raise();
    m_handle->raise();
}

void CompareView::resizeEvent(QResizeEvent*) {
    placeWipe();
    for (auto* pane : m_panes)
        pane->setWhole(size());
}

bool CompareView::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_handle && event->type() == QEvent::MouseMove) {
        auto* mouse = static_cast<QMouseEvent*>(event);
        auto view = m_session.view();
        view.compare.wipe = std::clamp(mapFromGlobal(mouse->globalPosition()).x() / std::max(1, width()), 0.02, 0.98);
        m_session.editView("Wipe", view, {GestureKind::Wipe});
        placeWipe();
        return true;
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace pyro
