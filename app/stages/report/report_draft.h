// The report as it is being put together: its blocks, its pages with the figures that are there, and which block is
// chosen. Sheet and pages show it.
#pragma once

#include "app/session/session.h"
#include "app/stages/report/figure_worker.h"
#include "render/report_pages.h"

#include <QTimer>

namespace pyro {

class ReportDraft : public QObject {
    Q_OBJECT
public:
    ReportDraft(Session& session, QObject* parent);

    // Those of the survey, or the usual ones.
    std::vector<ReportBlock> blocks() const;
    void setBlocks(const QString& what, std::vector<ReportBlock> blocks, Gesture gesture = {});
    // Of the chosen one; keeps the others.
    void editBlock(const QString& what, const std::function<void(ReportBlock&)>& change, Gesture gesture = {});
    std::size_t chosen() const { return m_chosen; }
    void choose(std::size_t block);

    // Pages are made while someone looks, soon after something changed.
    void setShown(bool shown);
    const ReportDocument* document() const { return m_pages ? &m_document : nullptr; }
    const ReportPages* pages() const { return m_pages.get(); }
    bool isComplete() const { return !m_stale && !m_worker->isBusy(); } // with every figure
    // Titles of columns that the chosen block's tables have when it names none.
    QStringList columnsOfChosen();

    // Writes it in a job, figures and all, into a file by its ending; `done` is called with what came of it.
    void write(const QString& file, std::function<void(Done)> done);
    // Fills a document of the user's own, in the same way; `unknown` holds names of fields that nothing is called by.
    void fill(const QString& from, const QString& to,
              std::function<void(Result<std::vector<std::string>> unknown)> done);

signals:
    void made();          // new pages
    void chosenChanged(); // another block

private:
    struct Snapshot; // all that a job needs
    void refresh();
    void make();
    FigureWish wishOf(const ViewpointFigure& figure) const;
    ReportInput input(const Survey& survey, const SurveyRun& run) const;
    std::shared_ptr<Snapshot> snapshot();

    Session& m_session;
    std::size_t m_chosen = 0;
    bool m_shown = false;
    bool m_stale = true;
    QTimer m_soon;
    std::shared_ptr<const Survey> m_survey; // of the figures that are being drawn
    ReportDocument m_document;
    FigureStore m_store;
    std::unique_ptr<ReportPages> m_pages;
    std::shared_ptr<FigureWorker> m_worker = std::make_shared<FigureWorker>(); // jobs keep it as well
};

} // namespace pyro
