// Cases beside each other under one camera, one range, one section and one time; or wiped over each other; or what
// they differ by from the baseline.
#pragma once

#include "app/stages/compare/difference_keeper.h"
#include "app/stages/compare/pane.h"

#include <QGridLayout>

namespace pyro {

class CompareView : public QWidget {
    Q_OBJECT
public:
    explicit CompareView(Session& session, QWidget* parent = nullptr);
    const std::vector<Pane*>& panes() const { return m_panes; }
    void fit();
    static constexpr std::size_t mostPanes = 6;

protected:
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Wanted { // one pane: a case, or its difference
        const CaseEntry* entry;
        bool difference;
    };
    std::vector<Wanted> wanted() const;
    void refresh();
    void lay(std::size_t count);
    PaneLook caseLook(const CaseEntry& entry, const std::array<double, 2>& range) const;
    PaneLook differenceLook(const CaseEntry& entry, const CaseEntry& baseline);
    std::array<double, 2> commonRange(const std::vector<Wanted>& panes) const;
    void follow(Pane& moved);
    void pointAt(const std::optional<QPointF>& at);
    void placeWipe();

    Session& m_session;
    DifferenceKeeper m_differences;
    std::vector<Pane*> m_panes;
    QGridLayout* m_grid;
    QWidget* m_clip;   // of a wipe: what is seen of the second pane
    QWidget* m_handle; // between the two
    bool m_wiping = false;
};

} // namespace pyro
