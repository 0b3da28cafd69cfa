// What several edits, one right after the other, belong to: a drag, a number that is spun. They become one undo step.
#pragma once

namespace pyro {

enum class GestureKind {
    None, // an edit of its own
    IsolatePart,
    SectionTyped,  // `which`: the section
    SectionSlider, // the same
    SectionDrag,   // the drag
    SectionNudge,
    SectionSweep,
    ColourRange, // the drag
    ChartRange,
    Opacity, // the part
    Wipe,
    Play,       // one viewpoint after the other
    ReportText, // `which`: the block
};

struct Gesture {
    GestureKind kind = GestureKind::None;
    int which = 0; // of its kind
    bool operator==(const Gesture&) const = default;

    bool isNone() const { return kind == GestureKind::None; }
};

} // namespace pyro
