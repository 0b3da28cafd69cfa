// The pages of the report one below the other, as they will be printed.
#pragma once

#include "app/stages/report/report_draft.h"

#include <QAbstractScrollArea>

namespace pyro {

class PageView : public QAbstractScrollArea {
    Q_OBJECT
public:
    PageView(ReportDraft& draft, QWidget* parent = nullptr);
    // Pixels for each millimetre; nothing: as wide as there is room.
    void setZoom(std::optional<double> zoom);
    double zoom() const;
    int pageInSight() const;       // from 0
    QRect pageBox(int page) const; // in the viewport
    void showBlock(std::size_t block);

signals:
    void moved(); // another page in sight, or another zoom
    void textWanted();

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;
    void scrollContentsBy(int dx, int dy) override;

private:
    struct Place {
        int page;
        QPointF at; // mm
    };
    void follow();
    void layOut();
    std::optional<Place> placeAt(const QPoint& pixel) const;
    std::optional<std::size_t> partAt(const QPoint& pixel) const;
    const QImage& picture(int page);
    double pitch() const; // pixels from page to page

    ReportDraft& m_draft;
    std::optional<double> m_zoom;
    std::map<int, QImage> m_drawn; // pages at the present zoom
    double m_drawnAt = 0;
};

} // namespace pyro
