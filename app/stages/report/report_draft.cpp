#include "app/stages/report/report_draft.h"

#include "charts/chart_writer.h"
#include "core/program/program.h"
#include "core/report/pages/fill_template.h"
#include "render/report_files.h"
#include "render/text.h"

#include <algorithm>

namespace pyro {

ReportDraft::ReportDraft(Session& session, QObject* parent) : QObject(parent), m_session(session) {
    m_soon.setSingleShot(true);
    m_soon.setInterval(30); // several changes at once, and figures that come one after the other
    connect(&m_soon, &QTimer::timeout, this, &ReportDraft::make);
    connect(m_worker.get(), &FigureWorker::ready, this, &ReportDraft::refresh);
    session.listen(this, Change::Survey | Change::Cases | Change::Readings, &ReportDraft::refresh);
}

std::vector<ReportBlock> ReportDraft::blocks() const { return blocksOf(m_session.survey()); }

void ReportDraft::setBlocks(const QString& what, std::vector<ReportBlock> blocks, Gesture gesture) {
    auto next = m_session.survey();
    next.report.blocks = std::move(blocks);
    m_session.edit(what, std::move(next), gesture);
}

void ReportDraft::editBlock(const QString& what, const std::function<void(ReportBlock&)>& change, Gesture gesture) {
    auto all = blocks();
    if (m_chosen >= all.size())
        return;
    const auto before = all[m_chosen];
    change(all[m_chosen]);
    if (!(before == all[m_chosen]))
        setBlocks(what, std::move(all), gesture);
}

void ReportDraft::choose(std::size_t block) {
    if (block == m_chosen)
        return;
    m_chosen = block;
    emit chosenChanged();
}

void ReportDraft::setShown(bool shown) {
    m_shown = shown;
    if (shown && m_stale)
        make();
}

void ReportDraft::refresh() {
    m_stale = true;
    if (m_shown && !m_soon.isActive())
        m_soon.start();
}

FigureWish ReportDraft::wishOf(const ViewpointFigure& figure) const {
    FigureWish wish{m_survey, m_session.document().folder(), {}, figure.caseName, figure.step, figure.block};
    for (const auto* one : figure.viewpoints)
        wish.viewpoints.push_back(*one);
    for (const auto& entry : m_session.survey().cases) {
        const auto* state = m_session.stateOf(entry);
        if (state == nullptr || !state->opened || state->error || !state->picture)
            continue;
        if (state->readings)
            wish.readings.emplace(entry.name, state->readings);
        if (state->series.steps.size() > 1)
            wish.steps.emplace(entry.name, state->step);
        wish.open.emplace(entry.name, DrawnCase{entry, *state->opened, true, state->quantities,
                                                timeText(state->series, state->step), state->picture});
    }
    return wish;
}

ReportInput ReportDraft::input(const Survey& survey, const SurveyRun& run) const {
    ReportInput out{survey, run, reportDate(), programVersion(), reportUnits(survey)};
    out.pictures = lineFigures(survey);
    out.pictures.chart = chartFigure;
    out.chartCases = m_session.chartCases();
    return out;
}

void ReportDraft::make() {
    m_stale = false;
    m_survey = std::make_shared<const Survey>(m_session.survey());
    auto wanted = input(*m_survey, m_session.openRun());
    wanted.pictures.viewpoints = [this](const ViewpointFigure& figure) { return m_worker->figure(wishOf(figure)); };
    wanted.checkSum = [this](const CaseRun& run) { return m_worker->checkSum(run); };
    m_pages.reset(); // before what it is made of
    m_document = makeReport(wanted, blocks());
    m_worker->dropOvertaken();
    m_pages = std::make_unique<ReportPages>(m_document, m_store);
    emit made();
}

QStringList ReportDraft::columnsOfChosen() {
    const auto all = blocks();
    if (m_chosen >= all.size())
        return {};
    auto block = all[m_chosen];
    block.columns.clear();
    block.off = false;
    auto wanted = input(m_session.survey(), m_session.openRun());
    wanted.pictures = {};
    QStringList titles;
    for (const auto& part : makeReport(wanted, {block}).parts)
        if (part.kind == ReportPart::Kind::Table)
            for (const auto& column : part.table.columns)
                if (!column.title.empty() && !titles.contains(q(column.title)))
                    titles.append(q(column.title));
    return titles;
}

// Charts are drawn on widgets, in this thread; everything else is drawn or read in the job.
struct ReportDraft::Snapshot {
    std::shared_ptr<const Survey> survey;
    SurveyRun run;
    std::vector<ReportBlock> blocks;
    std::vector<ReportPicture> charts; // in the order of the document
    std::vector<FigureWish> wishes;    // in the order of the document
    std::unique_ptr<ReportInput> input;
};

std::shared_ptr<ReportDraft::Snapshot> ReportDraft::snapshot() {
    m_survey = std::make_shared<const Survey>(m_session.survey());
    auto out = std::make_shared<Snapshot>();
    out->survey = m_survey;
    out->run = m_session.openRun();
    out->blocks = blocks();
    auto first = input(*out->survey, out->run);
    first.pictures.chart = [&](const ChartData& chart, const ChartView& view) {
        out->charts.push_back(chartFigure(chart, view));
        return out->charts.back();
    };
    first.pictures.viewpoints = [&](const ViewpointFigure& figure) {
        out->wishes.push_back(wishOf(figure));
        return withoutPicture("");
    };
    makeReport(first, out->blocks);
    out->input = std::make_unique<ReportInput>(input(*out->survey, out->run));
    return out;
}

void ReportDraft::write(const QString& file, std::function<void(Done)> done) {
    auto all = snapshot();
    using Written = std::monostate;
    m_session.jobs().run<Written>(
        "Writing the report", this,
        [worker = m_worker, all, file](Progress& progress) -> Result<Written> {
            auto& wanted = *all->input;
            std::size_t charts = 0;
            std::size_t figures = 0;
            wanted.pictures.chart = [&](const ChartData&, const ChartView&) { return all->charts.at(charts++); };
            wanted.pictures.viewpoints = [&](const ViewpointFigure&) {
                progress.report(0.6 * static_cast<double>(figures) / static_cast<double>(all->wishes.size()),
                                "Drawing figures");
                return worker->awaited(all->wishes.at(figures++), progress);
            };
            wanted.checkSum = [&](const CaseRun& run) { return worker->awaitedCheckSum(run, progress); };
            const auto document = makeReport(wanted, all->blocks);
            if (progress.cancelled())
                return fail(ErrorCode::Cancelled, "cancelled", file.toStdString());
            SubProgress writing(progress, 0.6, 1);
            if (auto written = writeReport(document, wanted, file.toStdString(), writing); !written)
                return tl::unexpected(written.error());
            return Written();
        },
        [done = std::move(done)](Result<Written> written) {
            done(written ? Done() : Done(tl::unexpected(written.error())));
        });
}

void ReportDraft::fill(const QString& from, const QString& to,
                       std::function<void(Result<std::vector<std::string>>)> done) {
    auto all = snapshot();
    m_session.jobs().run<std::vector<std::string>>(
        "Filling the document", this,
        [all, from, to](Progress&) -> Result<std::vector<std::string>> {
            std::vector<std::string> unknown;
            if (auto filled = fillTemplate(from.toStdString(), to.toStdString(), *all->input, unknown); !filled)
                return tl::unexpected(filled.error());
            return unknown;
        },
        std::move(done));
}

} // namespace pyro
