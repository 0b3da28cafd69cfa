#include "app/stages/compare/sweep_picture.h"

#include "app/session/session.h"
#include "core/report/shown/shown_table.h"
#include "render/text.h"

#include <QLabel>
#include <QVBoxLayout>
#include <set>

namespace pyro {
namespace {

struct PictureWord {
    SweepPicture picture;
    const char* shown;
};
constexpr PictureWord pictures[]{{SweepPicture::Map, "Map"},
                                 {SweepPicture::Curves, "Curves"},
                                 {SweepPicture::Lines, "All values"},
                                 {SweepPicture::Front, "Two aims"}};

QComboBox* box(const char* name, const QString& tip) {
    auto* made = new QComboBox;
    made->setObjectName(name);
    made->setToolTip(tip);
    made->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    made->setMinimumContentsLength(6);
    return made;
}

} // namespace

SweepPicturePanel::SweepPicturePanel(Session& session, QWidget* parent)
    : QWidget(parent), m_session(session), m_plot(new SweepPlot),
      m_picture(box("sweepPicture", "How the sweep is drawn")), m_value(box("sweepValue", "What is drawn")),
      m_x(box("sweepX", "To the right")), m_y(box("sweepY", "Upwards; of curves: what each is for")),
      m_sliceRow(new QWidget), m_slices(new QHBoxLayout(m_sliceRow)) {
    for (const auto& [picture, shown] : pictures)
        m_picture->addItem(shown, static_cast<int>(picture));
    auto* row = new QHBoxLayout;
    row->setContentsMargins(8, 4, 8, 0);
    row->setSpacing(6);
    for (auto* one : {m_picture, m_value, m_x, m_y})
        row->addWidget(one, one == m_value ? 2 : 1);
    row->addStretch(1);
    m_slices->setContentsMargins(8, 2, 8, 0);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    layout->addLayout(row);
    layout->addWidget(m_sliceRow);
    layout->addWidget(m_plot, 1);
    connect(m_picture, &QComboBox::activated, this, [this](int at) {
        edit("Picture of the sweep", [&](SweepLook& look) {
            look.picture = static_cast<SweepPicture>(m_picture->itemData(at).toInt());
            look.x.clear(); // of a front they are values
            look.y.clear();
        });
    });
    connect(m_value, &QComboBox::activated, this, [this](int at) {
        edit("Value of the sweep", [&](SweepLook& look) { look.value = m_value->itemText(at).toStdString(); });
    });
    connect(m_x, &QComboBox::activated, this, [this](int at) {
        edit("Axis of the sweep", [&](SweepLook& look) { look.x = m_x->itemText(at).toStdString(); });
    });
    connect(m_y, &QComboBox::activated, this, [this](int at) {
        edit("Axis of the sweep", [&](SweepLook& look) { look.y = m_y->itemText(at).toStdString(); });
    });
    connect(m_plot, &SweepPlot::rangeDrawn, this,
            [this](const std::string& key, const std::optional<std::array<double, 2>>& range) {
                edit("Range of the sweep", [&](SweepLook& look) {
                    if (range)
                        look.ranges[key] = *range;
                    else
                        look.ranges.erase(key);
                });
            });
}

template <class Change>
void SweepPicturePanel::edit(const QString& what, Change change) {
    auto view = m_session.view();
    change(view.sweep);
    m_session.editView(what, view);
}

void SweepPicturePanel::fill(const std::shared_ptr<const SweepReading>& sweep, const std::vector<SweepValue>& values,
                             const std::vector<std::size_t>& left, const std::optional<std::size_t>& chosen) {
    const auto look = filledLook(m_session.view().sweep, *sweep, values);
    fillBoxes(*sweep, values, look);
    fillSlices(*sweep, look);
    m_plot->draw({sweep, values, look, left, chosen});
}

void SweepPicturePanel::fillBoxes(const SweepReading& sweep, const std::vector<SweepValue>& values,
                                  const SweepLook& look) {
    m_picture->setCurrentIndex(m_picture->findData(static_cast<int>(look.picture)));
    const bool front = look.picture == SweepPicture::Front;
    const bool lines = look.picture == SweepPicture::Lines;
    for (auto* one : {m_value, m_x, m_y})
        one->clear();
    for (const auto& value : values) {
        m_value->addItem(q(value.key));
        if (front)
            for (auto* one : {m_x, m_y})
                one->addItem(q(value.key));
    }
    for (const auto& parameter : sweep.parameters)
        if (!front)
            for (auto* one : {m_x, m_y})
                one->addItem(q(parameter.name));
    m_value->setCurrentText(q(look.value));
    m_x->setCurrentText(q(look.x));
    m_y->setCurrentText(q(look.y));
    m_value->setVisible(!front && !lines);
    m_x->setVisible(!lines);
    m_y->setVisible(!lines && m_y->count() > 1);
}

// A box for each parameter that the picture holds.
void SweepPicturePanel::fillSlices(const SweepReading& sweep, const SweepLook& look) {
    while (auto* item = m_slices->takeAt(0)) {
        if (item->widget() != nullptr)
            item->widget()->deleteLater();
        delete item;
    }
    const bool sliced = look.picture == SweepPicture::Map || look.picture == SweepPicture::Curves;
    m_sliceRow->setVisible(sliced && !look.slices.empty());
    if (!sliced)
        return;
    for (const auto& parameter : sweep.parameters) {
        const auto held = look.slices.find(parameter.name);
        if (held == look.slices.end())
            continue;
        m_slices->addWidget(new QLabel("at " + q(parameter.name)));
        auto* choice = box("sweepSlice", "The value that the picture is of");
        choice->setAccessibleName("slice " + q(parameter.name));
        std::set<double> known;
        for (const auto& one : sweep.cases)
            if (const auto own = one.parameters.find(parameter.name); own != one.parameters.end())
                known.insert(own->second);
        for (const double value : known)
            choice->addItem(q(shownParameter(parameter, value)), value);
        choice->setCurrentIndex(choice->findData(held->second));
        connect(choice, &QComboBox::activated, this, [this, choice, name = parameter.name](int at) {
            edit("Slice of the sweep", [&](SweepLook& to) { to.slices[name] = choice->itemData(at).toDouble(); });
        });
        m_slices->addWidget(choice);
    }
    m_slices->addStretch();
}

} // namespace pyro
