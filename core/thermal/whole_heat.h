// The heat of all parts together: what is produced and enters against what leaves and is stored.
#pragma once

#include "core/thermal/balances.h"

namespace pyro {

// Produced: of the parts whose own balance is known, by their sources, else by their powers. Leaving: conducted through
// their outer faces and carried through their openings; where a part's balance is not known (a coolant without
// density), what goes over to it. Stored: by the step before. A wall between two parts of the case leads out of
// neither. Nothing where neither a source nor a power is known, or the heat through a boundary is not.
std::optional<BalanceReading> wholeBalance(const CaseHeat& heat, const Balances& balances,
                                           const std::map<std::string, double>& powers);

// The same as a line under those of the parts: what comes in and leaves by conduction, carried the rest. Nothing
// without a balance of the whole.
std::optional<PartBalance> balanceOfAll(const Readings& readings);

// "produced 22.8 W, leaving 18.45 W, stored 4.349 W, remainder 0 W", for every place that tells it.
std::string balanceText(const BalanceReading& balance);

struct WholeHeat {
    double in = 0;            // W, produced and entering
    double out = 0;           // W, leaving
    double stored = 0;        // W
    std::string without = {}; // parts that are left out, as their own balance is not known
    // share left over
    double open() const {
        return std::max(in, out) > 0 ? std::abs(in - out - stored) / std::max({in, out, std::abs(stored)}) : 0;
    }
    std::string text() const; // "22.8 W in, 22.8 W out, 0.000 % open", with what is stored where that is not 0
};
// From the readings, for the check, the status line and the report alike. What is not known of a part is not known of
// the whole, but where fluxes stored on all boundaries close it. Errors: NotSupported with the part or boundary that
// lacks something.
Result<WholeHeat> wholeHeat(const Readings& readings);

} // namespace pyro
