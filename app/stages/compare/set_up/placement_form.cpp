// Where the geometry of a case lies on that of the first one.
#include "app/session/session.h"
#include "app/stages/compare/set_up/set_up.h"
#include "app/stages/stage_desk.h"
#include "render/text.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>

namespace pyro {
namespace {

enum How { Unmoved, ByBoxes, ByPlaces };
constexpr int rows = 3;

class PlacementForm : public QDialog {
public:
    explicit PlacementForm(StageDesk& desk) : QDialog(desk.dialogParent()), m_session(desk.session()) {
        setObjectName("placementForm");
        setWindowTitle("Placement of a case");
        setAttribute(Qt::WA_DeleteOnClose);
        resize(640, 330);
        m_case = new QComboBox;
        m_case->setObjectName("placedCase");
        const auto& cases = m_session.survey().cases;
        for (std::size_t i = 1; i < cases.size(); ++i)
            m_case->addItem(q(cases[i].name));
        m_how = new QComboBox;
        m_how->setObjectName("placedHow");
        m_how->addItems({"it lies where the first case lies", "by the boxes around parts of the same names",
                         "by three places that both have"});
        m_scaled = new QCheckBox("Its size is fitted as well");
        m_scaled->setObjectName("placedScaled");
        m_table = new QTableWidget(rows, 6);
        m_table->setObjectName("placedTable");
        m_table->setHorizontalHeaderLabels(
            {"x here, mm", "y here", "z here", "x on the first, mm", "y on the first", "z on the first"});
        m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
        auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
        buttons->button(QDialogButtonBox::Ok)->setText("Place it");
        auto* words = new QLabel("Differences and gauges with \"minus\" are read at places that are carried over so.");
        words->setObjectName("hint");
        words->setWordWrap(true);
        auto* layout = new QVBoxLayout(this);
        for (auto* widget : {static_cast<QWidget*>(m_case), static_cast<QWidget*>(m_how),
                             static_cast<QWidget*>(m_scaled), static_cast<QWidget*>(words)})
            layout->addWidget(widget);
        layout->addWidget(m_table, 1);
        layout->addWidget(buttons);
        connect(m_case, &QComboBox::activated, this, [this] { fill(); });
        connect(m_how, &QComboBox::activated, this, [this] { fit(); });
        connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
        connect(buttons, &QDialogButtonBox::accepted, this, [this] { take(); });
        fill();
    }

private:
    void fit() {
        m_table->setEnabled(m_how->currentIndex() == ByPlaces);
        m_scaled->setEnabled(m_how->currentIndex() != Unmoved);
    }
    void fill() {
        m_table->clearContents();
        const auto* entry = m_session.survey().caseNamed(m_case->currentText().toStdString());
        const auto placement = entry != nullptr ? entry->placement : std::nullopt;
        m_how->setCurrentIndex(!placement ? Unmoved : placement->byBoxes ? ByBoxes : ByPlaces);
        m_scaled->setChecked(placement && placement->scaled);
        for (std::size_t row = 0; placement && row < std::min<std::size_t>(placement->from.size(), rows); ++row)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                const auto put = [&](std::size_t column, const WrittenPlace& place) {
                    m_table->setItem(static_cast<int>(row), static_cast<int>(column),
                                     new QTableWidgetItem(QString::number(1e3 * place.at()[axis])));
                };
                put(axis, placement->from[row]);
                put(3 + axis, placement->to[row]);
            }
        fit();
    }
    Json placeIn(int row, int column) const {
        auto place = Json::array();
        for (int axis = 0; axis < 3; ++axis) {
            const auto* item = m_table->item(row, column + axis);
            const auto text = item != nullptr ? item->text().trimmed().replace(',', '.') : QString();
            place.push_back(text.isEmpty() ? std::string("nothing") : text.toStdString() + " mm");
        }
        return place;
    }
    void take() {
        const bool done = editSurveyJson(m_session, "Placement of a case", [&](Json& survey) {
            for (auto& entry : survey["cases"]) {
                if (entry["name"] != m_case->currentText().toStdString())
                    continue;
                entry.erase("placement");
                if (m_how->currentIndex() == Unmoved)
                    continue;
                Json placement = Json::object();
                if (m_how->currentIndex() == ByBoxes)
                    placement["by_boxes"] = true;
                for (int row = 0; m_how->currentIndex() == ByPlaces && row < rows; ++row) {
                    placement["from"].push_back(placeIn(row, 0));
                    placement["to"].push_back(placeIn(row, 3));
                }
                if (m_scaled->isChecked())
                    placement["scaled"] = true;
                entry["placement"] = placement;
            }
        });
        if (done)
            accept();
    }

    Session& m_session;
    QComboBox* m_case;
    QComboBox* m_how;
    QCheckBox* m_scaled;
    QTableWidget* m_table;
};

} // namespace

void showPlacementForm(StageDesk& desk) {
    if (desk.session().survey().cases.size() < 2)
        return desk.tell("There is one case only: open another one to place it on the first.");
    (new PlacementForm(desk))->show();
}

} // namespace pyro
