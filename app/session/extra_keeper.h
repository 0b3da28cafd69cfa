// Paths, arrows, isotherm surfaces, the deformed shape and the outer shell of the case on display: made by jobs, anew
// only when what they depend on changed.
#pragma once

#include "app/pipeline/job.h"
#include "app/session/section_keeper.h"
#include "render/deformed_picture.h"
#include "render/shell_picture.h"

namespace pyro {

class ExtraKeeper {
public:
    // What is on display now.
    struct OnDisplay {
        FieldLook look;
        std::shared_ptr<const FieldPicture> picture; // null while it is made, as the next
        std::shared_ptr<const CellOrders> orders;
        QuantityList quantities;
        std::optional<Point> hottest; // visible
        std::vector<ShownSection> sections;
        std::vector<std::size_t> parts; // visible
        std::vector<double> surfaces;   // levels, SI
        // The case that the displacement is of, at its step on display, and what it stores; nothing while it is read.
        std::optional<OpenedCase> moved = {};
        QuantityList movedQuantities = {};
    };

    // `ready` is called when one of them was made.
    ExtraKeeper(JobList& jobs, QObject& context, std::function<void()> ready)
        : m_jobs(jobs), m_context(context), m_ready(std::move(ready)) {}

    void update(const OnDisplay& shown);
    void clear();

    // Null while they are off or being made.
    std::shared_ptr<const PathPicture> paths() const { return m_paths.made; }
    std::shared_ptr<const ArrowPicture> arrows() const { return m_arrows.made; }
    std::shared_ptr<const LevelPicture> levels() const { return m_levels.made; }
    std::shared_ptr<const ShellPicture> shell() const { return m_shell.made; }
    std::shared_ptr<const DeformedPicture> deformed() const { return m_deformed.made; }

private:
    struct PathKey {
        PathView view;
        std::shared_ptr<const FieldPicture> picture;
        PathSources sources;
        bool operator==(const PathKey&) const = default;
    };
    struct ArrowKey {
        ArrowView view;
        std::shared_ptr<const FieldPicture> picture;
        std::vector<std::shared_ptr<const SectionPicture>> sections;
        bool operator==(const ArrowKey&) const = default;
    };
    struct LevelKey {
        std::vector<double> values;
        std::shared_ptr<const FieldPicture> picture;
        std::vector<std::size_t> parts;
        bool operator==(const LevelKey&) const = default;
    };
    struct DeformedKey {
        std::shared_ptr<const FieldPicture> picture;
        std::shared_ptr<const Case> moved;
        std::string quantity;
        std::optional<double> factor;
        bool operator==(const DeformedKey&) const = default;
    };
    struct ShellKey {
        std::shared_ptr<const FieldPicture> picture;
        bool operator==(const ShellKey&) const = default;
    };
    template <class Key, class Made>
    struct Slot {
        std::optional<Key> wanted;
        std::shared_ptr<const Made> made; // the one before stays until the new one is there, on the same picture
        std::function<void()> start;
        bool running = false; // one job at a time: of several requests meanwhile only the last counts
    };
    template <class Key, class Made, class Make>
    void want(Slot<Key, Made>& slot, const Key& key, const QString& title, Make make);
    template <class Key, class Made>
    static void drop(Slot<Key, Made>& slot);

    void updatePaths(const OnDisplay& shown);
    void updateArrows(const OnDisplay& shown);
    void updateLevels(const OnDisplay& shown);
    void updateDeformed(const OnDisplay& shown);
    void updateShell(const OnDisplay& shown);

    JobList& m_jobs;
    QObject& m_context;
    std::function<void()> m_ready;
    Slot<PathKey, PathPicture> m_paths;
    Slot<ArrowKey, ArrowPicture> m_arrows;
    Slot<LevelKey, LevelPicture> m_levels;
    Slot<DeformedKey, DeformedPicture> m_deformed;
    Slot<ShellKey, ShellPicture> m_shell;
};

} // namespace pyro
