#include "app/stages/stage.h"

#include "app/session/session.h"

namespace pyro {

std::span<const Stage* const> stages() {
    static constexpr const Stage* all[]{
#define STAGE(name) &name##Stage,
#include "app/stages/list.inc"
#undef STAGE
    };
    return all;
}

const Stage& stageNamed(const QString& id) {
    for (const auto* one : stages())
        if (id == one->id)
            return *one;
    return *stages().front();
}

std::span<const StageAction> actionsOf(const Stage& stage) {
    return stage.actions != nullptr ? stage.actions() : std::span<const StageAction>();
}

const Stage& stageOf(const Session& session) { return stageNamed(QString::fromStdString(session.view().stage)); }

} // namespace pyro
