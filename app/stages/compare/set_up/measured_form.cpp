// Measured data: a table, a logger, or an infrared picture with the places that its pixels show.
#include "app/session/dialogs.h"
#include "app/stages/compare/set_up/picture_preview.h"
#include "app/stages/compare/set_up/set_up.h"
#include "app/stages/stage_desk.h"
#include "app/viewport/viewport.h"
#include "core/survey/survey_file.h"
#include "render/text.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPointer>
#include <QPushButton>
#include <QTableWidget>
#include <cmath>

namespace pyro {
namespace {

constexpr int leastMatches = 4;

QLineEdit* line(const char* name, const QString& empty) {
    auto* edit = new QLineEdit;
    edit->setObjectName(name);
    edit->setPlaceholderText(empty);
    return edit;
}

class MeasuredForm : public QDialog {
public:
    explicit MeasuredForm(StageDesk& desk) : QDialog(desk.dialogParent()), m_desk(desk), m_session(desk.session()) {
        setObjectName("measuredForm");
        setWindowTitle("Measured data");
        setAttribute(Qt::WA_DeleteOnClose);
        auto* layout = new QHBoxLayout(this);
        layout->addLayout(buildFields());
        layout->addWidget(buildPicture(), 1);
        m_which->addItem("New");
        for (const auto& one : m_session.survey().measured)
            m_which->addItem(q(one.id));
        connect(m_which, &QComboBox::activated, this, [this] { fill(); });
        connect(m_isPicture, &QCheckBox::clicked, this, [this] { showPicture(); });
        connect(m_file, &QLineEdit::editingFinished, this, [this] { showPicture(); });
        if (m_which->count() > 1)
            m_which->setCurrentIndex(1);
        fill();
    }

private:
    QLayout* buildFields() {
        m_which = new QComboBox;
        m_which->setObjectName("measuredWhich");
        m_id = line("measuredId", "name, for example thermocouples");
        m_file = line("measuredFile", "CSV, spreadsheet, TIFF or PNG");
        auto* choose = new QPushButton("Choose\u2026");
        choose->setObjectName("chooseMeasured");
        m_case = new QComboBox;
        m_case->setObjectName("measuredCase");
        for (const auto& entry : m_session.survey().cases)
            m_case->addItem(q(entry.name));
        m_unit = line("measuredUnit", "where the file tells none: degC");
        m_uncertainty = line("measuredUncertainty", "k = 2, where the file tells none: 2 K");
        m_ambient = line("measuredAmbient", "of the test: 23 degC");
        m_time = line("measuredTime", "of a picture: 120 s");
        m_isPicture = new QCheckBox("It is an infrared picture");
        m_isPicture->setObjectName("measuredIsPicture");
        auto* row = new QHBoxLayout;
        row->addWidget(m_file, 1);
        row->addWidget(choose);
        auto* form = new QFormLayout;
        form->addRow("Set", m_which);
        form->addRow("Name", m_id);
        form->addRow("File", row);
        form->addRow("Case", m_case);
        form->addRow("Unit", m_unit);
        form->addRow("Uncertainty", m_uncertainty);
        form->addRow("Ambient", m_ambient);
        form->addRow("Time", m_time);
        form->addRow(m_isPicture);
        auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
        buttons->button(QDialogButtonBox::Ok)->setText("Hold against the case");
        m_delete = buttons->addButton("Delete", QDialogButtonBox::DestructiveRole);
        form->addRow(buttons);
        connect(choose, &QPushButton::clicked, this, [this] { chooseFile(); });
        connect(buttons, &QDialogButtonBox::accepted, this, [this] { take(); });
        connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
        connect(m_delete, &QPushButton::clicked, this, [this] { remove(); });
        return form;
    }
    QWidget* buildPicture() {
        m_picture = new QWidget;
        m_preview = new PicturePreview;
        m_matches = new QTableWidget(leastMatches, 5);
        m_matches->setObjectName("matchTable");
        m_matches->setHorizontalHeaderLabels({"Column", "Row", "x, mm", "y, mm", "z, mm"});
        m_matches->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
        m_matches->setMinimumWidth(360);
        auto* place = new QPushButton("Click the place\u2026");
        place->setObjectName("matchPlace");
        place->setToolTip("The place of the chosen row, by a click in the viewport of the stage Field");
        auto* more = new QPushButton("Another row");
        more->setObjectName("matchRow");
        m_scale = new QWidget;
        auto* scale = new QFormLayout(m_scale);
        scale->setContentsMargins(0, 0, 0, 0);
        m_low = line("scaleLow", "20 degC");
        m_high = line("scaleHigh", "120 degC");
        scale->addRow("0 stands for", m_low);
        scale->addRow("65535 stands for", m_high);
        m_view = line("fieldOfView", "found by the places: 24 deg");
        scale->addRow("Field of view", m_view);
        auto* words = new QLabel("Click a pixel, then the place that it shows. Three matches lay the picture on their "
                                 "plane, four and more find the camera.");
        words->setObjectName("hint");
        words->setWordWrap(true);
        auto* buttons = new QHBoxLayout;
        buttons->addWidget(place);
        buttons->addWidget(more);
        buttons->addStretch();
        auto* layout = new QVBoxLayout(m_picture);
        layout->setContentsMargins(0, 0, 0, 0);
        layout->addWidget(m_preview, 1);
        layout->addWidget(words);
        layout->addWidget(m_matches, 1);
        layout->addLayout(buttons);
        layout->addWidget(m_scale);
        connect(m_preview, &PicturePreview::clicked, this, [this](double column, double row) {
            put(currentRow(), {column, row}, 0);
            mark();
        });
        connect(m_matches, &QTableWidget::currentCellChanged, this, [this] { mark(); });
        connect(m_matches, &QTableWidget::cellChanged, this, [this] { mark(); });
        connect(more, &QPushButton::clicked, this, [this] {
            m_matches->setRowCount(m_matches->rowCount() + 1);
            m_matches->setCurrentCell(m_matches->rowCount() - 1, 0);
        });
        connect(place, &QPushButton::clicked, this, [this] { askPlace(); });
        return m_picture;
    }

    int currentRow() const { return std::max(0, m_matches->currentRow()); }
    void put(int row, const std::vector<double>& numbers, int column) {
        for (std::size_t i = 0; i < numbers.size(); ++i)
            m_matches->setItem(row, column + static_cast<int>(i),
                               new QTableWidgetItem(QString::number(numbers[i], 'g', 6)));
    }
    std::optional<double> numberAt(int row, int column) const {
        const auto* item = m_matches->item(row, column);
        bool isNumber = false;
        const double number = item != nullptr ? item->text().trimmed().replace(',', '.').toDouble(&isNumber) : 0;
        return isNumber ? std::optional(number) : std::nullopt;
    }
    void mark() {
        std::vector<std::array<double, 2>> pixels;
        for (int row = 0; row < m_matches->rowCount(); ++row)
            pixels.push_back({numberAt(row, 0).value_or(std::nan("")), numberAt(row, 1).value_or(std::nan(""))});
        m_preview->mark(std::move(pixels), static_cast<std::size_t>(currentRow()));
    }
    // The form steps aside until a place is clicked.
    void askPlace() {
        const auto stage = q(m_session.view().stage);
        m_desk.showStage("Field");
        hide();
        const QPointer<MeasuredForm> self(this);
        m_desk.viewport().placer().takePlace([self, stage](const Point& at) {
            if (!self)
                return;
            self->put(self->currentRow(), {1e3 * at[0], 1e3 * at[1], 1e3 * at[2]}, 2);
            self->m_desk.showStage(stage);
            self->show();
            const int next = self->currentRow() + 1;
            if (next < self->m_matches->rowCount())
                self->m_matches->setCurrentCell(next, 0);
        });
    }

    void chooseFile() {
        const auto file = dialogs::openFile(this, "Measured data",
                                            "Measured data (*.csv *.txt *.xlsx *.ods *.tif *.tiff *.png)");
        if (file.isEmpty())
            return;
        m_file->setText(besideSurveyFile(m_session, file));
        if (m_id->text().isEmpty())
            m_id->setText(QFileInfo(file).completeBaseName());
        const auto ending = QFileInfo(file).suffix().toLower();
        m_isPicture->setChecked(ending == "png" || ending.startsWith("tif"));
        showPicture();
    }
    void showPicture() {
        m_picture->setVisible(m_isPicture->isChecked());
        m_preview->clear();
        if (m_isPicture->isChecked() && !m_file->text().isEmpty()) {
            const auto matrix = readMatrix(besideSurvey(m_file->text().toStdString(), m_session.document().folder()));
            if (matrix)
                m_preview->show(*matrix);
            else
                m_session.complain(matrix.error());
        }
        resize(m_isPicture->isChecked() ? QSize(900, 600) : QSize(420, 380));
    }
    const MeasuredWish* chosen() const {
        const auto at = static_cast<std::size_t>(m_which->currentIndex()) - 1;
        return m_which->currentIndex() > 0 ? &m_session.survey().measured.at(at) : nullptr;
    }
    void fill() {
        const auto wish = chosen() != nullptr ? *chosen() : MeasuredWish{};
        m_id->setText(q(wish.id));
        m_file->setText(q(wish.file));
        if (!wish.caseName.empty())
            m_case->setCurrentText(q(wish.caseName));
        m_unit->setText(q(wish.unit));
        m_uncertainty->setText(q(wish.uncertainty));
        m_ambient->setText(wish.ambient ? q(wish.ambient->text) : QString());
        m_time->setText(wish.time ? q(wish.time->text) : QString());
        m_isPicture->setChecked(wish.picture.has_value());
        m_delete->setVisible(chosen() != nullptr);
        m_matches->clearContents();
        const auto how = wish.picture.value_or(PictureWish{});
        m_matches->setRowCount(std::max<int>(leastMatches, static_cast<int>(how.matched.size())));
        for (std::size_t i = 0; i < how.matched.size(); ++i) {
            const auto at = how.matched[i].at.at();
            put(static_cast<int>(i),
                {how.matched[i].pixel[0], how.matched[i].pixel[1], 1e3 * at[0], 1e3 * at[1], 1e3 * at[2]}, 0);
        }
        m_low->setText(how.scale.size() == 2 ? q(how.scale[0].value) : QString());
        m_high->setText(how.scale.size() == 2 ? q(how.scale[1].value) : QString());
        m_view->setText(how.fieldOfView ? q(how.fieldOfView->text) : QString());
        showPicture();
        mark();
    }
    Json pictureJson(Json picture) const {
        picture["matched"] = Json::array();
        for (int row = 0; row < m_matches->rowCount(); ++row) {
            Json match{{"pixel", Json::array()}, {"at", Json::array()}};
            bool any = false;
            for (int column = 0; column < 5; ++column) {
                const auto number = numberAt(row, column);
                any = any || number;
                auto& list = match[column < 2 ? "pixel" : "at"];
                if (column < 2)
                    list.push_back(number ? Json(*number) : Json());
                else
                    list.push_back(number ? Json(QString::number(*number, 'g', 9).toStdString() + " mm") : Json());
            }
            if (any)
                picture["matched"].push_back(match);
        }
        picture.erase("scale");
        if (!m_low->text().isEmpty() || !m_high->text().isEmpty())
            picture["scale"] = {{{"count", 0}, {"value", m_low->text().toStdString()}},
                                {{"count", 65535}, {"value", m_high->text().toStdString()}}};
        picture.erase("field_of_view");
        if (!m_view->text().isEmpty())
            picture["field_of_view"] = m_view->text().toStdString();
        return picture;
    }
    void take() {
        const bool done = editSurveyJson(m_session, "Measured data", [this](Json& survey) {
            auto& list = survey["measured"];
            if (list.is_null())
                list = Json::array();
            const auto at = m_which->currentIndex() > 0 ? static_cast<std::size_t>(m_which->currentIndex()) - 1
                                                        : list.size();
            if (at == list.size())
                list.push_back(Json::object());
            auto& wish = list[at];
            const auto set = [&](const char* key, const QString& text) {
                wish.erase(key);
                if (!text.trimmed().isEmpty())
                    wish[key] = text.trimmed().toStdString();
            };
            set("id", m_id->text());
            set("file", m_file->text());
            set("case", m_case->currentText());
            set("unit", m_unit->text());
            set("uncertainty", m_uncertainty->text());
            set("ambient", m_ambient->text());
            set("time", m_time->text());
            const auto before = wish.value("picture", Json::object());
            wish.erase("picture");
            if (m_isPicture->isChecked())
                wish["picture"] = pictureJson(before);
        });
        if (done)
            accept();
    }
    void remove() {
        const auto at = static_cast<std::size_t>(m_which->currentIndex()) - 1;
        auto next = m_session.survey();
        next.measured.erase(next.measured.begin() + static_cast<std::ptrdiff_t>(at));
        m_session.edit("Delete measured data", std::move(next));
        accept();
    }

    StageDesk& m_desk;
    Session& m_session;
    QComboBox* m_which;
    QLineEdit* m_id;
    QLineEdit* m_file;
    QComboBox* m_case;
    QLineEdit* m_unit;
    QLineEdit* m_uncertainty;
    QLineEdit* m_ambient;
    QLineEdit* m_time;
    QCheckBox* m_isPicture;
    QPushButton* m_delete;
    QWidget* m_picture;
    PicturePreview* m_preview;
    QTableWidget* m_matches;
    QWidget* m_scale;
    QLineEdit* m_low;
    QLineEdit* m_high;
    QLineEdit* m_view;
};

} // namespace

void showMeasuredForm(StageDesk& desk) { (new MeasuredForm(desk))->show(); }

} // namespace pyro
