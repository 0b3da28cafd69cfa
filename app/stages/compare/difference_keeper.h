// Pictures of what cases differ by from the baseline, made in jobs and kept while what they were made of stays.
#pragma once

#include "app/session/session.h"

namespace pyro {

struct DifferencePicture {
    std::shared_ptr<const FieldPicture> picture; // null while it is being made, and where it cannot be
    double covered = 0;                          // share of the values that have a partner in the baseline
    std::string when;                            // steps that the baseline was interpolated between
    std::string why;                             // it cannot be made
};

class DifferenceKeeper : public QObject {
    Q_OBJECT
public:
    explicit DifferenceKeeper(Session& session, QObject* parent);
    // The difference of the quantity on display at the steps on display; begun where it is not there.
    const DifferencePicture& of(const CaseEntry& entry, const CaseEntry& baseline);

signals:
    void changed();

private:
    struct Key {
        std::shared_ptr<const Case> own;
        std::shared_ptr<const Case> baseline;
        std::string quantity;
        std::array<std::optional<PlacementWish>, 2> placements;
        bool operator==(const Key&) const = default;
    };
    struct Kept {
        Key key;
        DifferencePicture made;
        std::shared_ptr<std::atomic<bool>> cancel;
    };
    void begin(Kept& kept, const CaseEntry& ownEntry, const CaseState& own, const CaseState& baseline,
               const CaseEntry& baselineEntry);

    Session& m_session;
    std::map<std::string, Kept> m_kept; // by case
};

} // namespace pyro
