#include "core/gauge/formula.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

enum class Sort { Number, Unit, Name, Sign, End };

struct Token {
    Sort sort = Sort::End;
    std::string text;
    double number = 0;
    std::size_t from = 0;
    std::size_t to = 0;
};

struct Stop { // thrown out of the recursion, caught at its top
    FormulaMistake mistake;
};
[[noreturn]] void stop(const std::string& what, std::size_t from, std::size_t to) { throw Stop{{what, from, to}}; }

bool startsName(char c) { return c == '_' || std::isalpha(static_cast<unsigned char>(c)) != 0; }
bool isDigit(char c) { return c >= '0' && c <= '9'; }

std::vector<Token> tokensOf(std::string_view text) {
    std::vector<Token> tokens;
    for (std::size_t at = 0; at < text.size();) {
        const char c = text[at];
        Token token{Sort::Sign, std::string(1, c), 0, at, at + 1};
        if (c == ' ' || c == '\t' || c == '\n') {
            ++at;
            continue;
        }
        if (isDigit(c) || (c == '.' && at + 1 < text.size() && isDigit(text[at + 1]))) {
            const auto [end, status] = std::from_chars(text.data() + at, text.data() + text.size(), token.number);
            token.to = static_cast<std::size_t>(end - text.data());
            token.sort = Sort::Number;
            if (status != std::errc())
                stop("this number cannot be read", at, token.to);
        } else if (startsName(c)) {
            while (token.to < text.size() && (startsName(text[token.to]) || isDigit(text[token.to])))
                ++token.to;
            token.sort = Sort::Name;
        } else if (c == '\'' || c == '"') {
            const auto end = text.find(c, at + 1);
            if (end == std::string_view::npos)
                stop("the quotation mark of this unit is not closed", at, text.size());
            token.sort = Sort::Unit;
            token.to = end + 1;
        } else if (std::string_view("+-*/^(),").find(c) == std::string_view::npos) {
            stop(fmt::format("the character '{}' has no place in a formula", c), at, at + 1);
        }
        token.text = std::string(token.sort == Sort::Unit ? text.substr(at + 1, token.to - at - 2)
                                                          : text.substr(at, token.to - at));
        at = token.to;
        tokens.push_back(std::move(token));
    }
    tokens.push_back({Sort::End, "", 0, text.size(), text.size()});
    return tokens;
}

struct Spot { // a value and the characters it came from
    FormulaValue value;
    std::size_t from;
    std::size_t to;
};

std::string named(const FormulaValue& value) {
    return value.isTemperature     ? "a temperature"
           : value.unit.isNumber() ? "a number without unit"
                                   : fmt::format("\"{}\"", value.unit.text());
}

class Parser {
public:
    Parser(std::string_view text, const FormulaLookup& lookup) : m_tokens(tokensOf(text)), m_lookup(lookup) {}

    FormulaValue run() {
        if (next().sort == Sort::End)
            stop("the formula is empty", 0, 0);
        const auto spot = sum();
        if (next().sort != Sort::End)
            stop(fmt::format("an operator is missing before \"{}\"", next().text), next().from, next().to);
        if (!std::isfinite(spot.value.si))
            stop("the result is not a finite number", spot.from, spot.to);
        return spot.value;
    }

private:
    const Token& next() const { return m_tokens[m_at]; }
    bool takeSign(char sign) {
        if (next().sort != Sort::Sign || next().text[0] != sign)
            return false;
        ++m_at;
        return true;
    }
    void needSign(char sign) {
        if (!takeSign(sign))
            stop(fmt::format("a \"{}\" is missing here", sign), next().from, next().to);
    }

    Spot sum() {
        auto left = product();
        for (;;) {
            const bool plus = takeSign('+');
            if (!plus && !takeSign('-'))
                return left;
            const auto right = product();
            left = added(left, right, plus);
        }
    }

    static Spot added(const Spot& a, const Spot& b, bool plus) {
        const Spot both{{plus ? a.value.si + b.value.si : a.value.si - b.value.si, a.value.unit, false}, a.from, b.to};
        if (!a.value.unit.sameAs(b.value.unit))
            stop(fmt::format("{} and {} cannot be {}", named(a.value), named(b.value), plus ? "added" : "subtracted"),
                 a.from, b.to);
        auto out = both;
        if (a.value.isTemperature && b.value.isTemperature && plus)
            stop("two temperatures cannot be added; one of them must be a difference, written in K", a.from, b.to);
        if (!a.value.isTemperature && b.value.isTemperature && !plus)
            stop("a temperature cannot be taken from a difference", a.from, b.to);
        out.value.isTemperature = a.value.isTemperature != b.value.isTemperature;
        return out;
    }

    Spot product() {
        auto left = signedPower();
        for (;;) {
            const bool times = takeSign('*');
            if (!times && !takeSign('/'))
                return left;
            const auto right = signedPower();
            if (!times && right.value.si == 0)
                stop("division by zero", left.from, right.to);
            left = {{times ? left.value.si * right.value.si : left.value.si / right.value.si,
                     times ? left.value.unit * right.value.unit : left.value.unit / right.value.unit, false},
                    left.from,
                    right.to};
        }
    }

    Spot signedPower() {
        const auto from = next().from;
        if (takeSign('-')) {
            auto value = signedPower();
            value.value.si = -value.value.si;
            value.value.isTemperature = false;
            return {value.value, from, value.to};
        }
        return power();
    }

    Spot power() {
        auto base = factor();
        if (!takeSign('^'))
            return base;
        const auto exponent = signedPower(); // right-associative: a^b^c is a^(b^c)
        if (!exponent.value.unit.isNumber())
            stop(fmt::format("an exponent has no unit, but this one is {}", named(exponent.value)), exponent.from,
                 exponent.to);
        const auto unit = base.value.unit.power(exponent.value.si);
        if (!unit)
            stop(unit.error().what, base.from, exponent.to);
        const double raised = std::pow(base.value.si, exponent.value.si);
        if (!std::isfinite(raised))
            stop("this power is not a finite number", base.from, exponent.to);
        return {{raised, *unit, false}, base.from, exponent.to};
    }

    Spot factor() {
        const auto token = next();
        ++m_at;
        switch (token.sort) {
        case Sort::Number:
            return literal(token);
        case Sort::Name:
            return std::ranges::find(formulaFunctions, token.text) != formulaFunctions.end() && next().text == "("
                       ? function(token)
                       : reading(token);
        case Sort::Sign:
            if (token.text == "(") {
                auto inner = sum();
                const auto end = next().to;
                needSign(')');
                return {inner.value, token.from, end};
            }
            [[fallthrough]];
        default:
            --m_at;
            stop(token.sort == Sort::End ? "the formula ends too early"
                                         : fmt::format("a value is missing before \"{}\"", token.text),
                 token.from, token.to);
        }
    }

    Spot literal(const Token& token) {
        if (next().sort != Sort::Unit)
            return {{token.number, {}, false}, token.from, token.to};
        const auto unit = next();
        ++m_at;
        const auto product = UnitProduct::of(unit.text);
        if (!product)
            stop(product.error().what, unit.from, unit.to);
        const auto toSi = conversion(unit.text, product->text());
        if (!toSi)
            stop(toSi.error().what, unit.from, unit.to);
        return {{(*toSi)(token.number), *product, toSi->offset != 0}, token.from, unit.to};
    }

    Spot reading(const Token& token) {
        const auto value = m_lookup(token.text);
        if (!value)
            stop(value.error(), token.from, token.to);
        return {*value, token.from, token.to};
    }

    Spot function(const Token& name) {
        needSign('(');
        std::vector<Spot> arguments{sum()};
        while (takeSign(','))
            arguments.push_back(sum());
        const auto to = next().to;
        needSign(')');
        auto value = apply(name, arguments, to);
        if (!std::isfinite(value.si))
            stop(fmt::format("{} of this value is not a finite number", name.text), name.from, to);
        return {value, name.from, to};
    }

    static FormulaValue apply(const Token& name, const std::vector<Spot>& arguments, std::size_t to) {
        const auto& first = arguments.front().value;
        const bool several = name.text == "min" || name.text == "max";
        if (!several && arguments.size() != 1)
            stop(fmt::format("{} takes one value", name.text), name.from, to);
        if (several)
            return extreme(name, arguments, to);
        if (name.text == "abs")
            return {std::abs(first.si), first.unit, false};
        if (name.text == "sqrt") {
            const auto unit = first.unit.power(0.5);
            if (!unit)
                stop(unit.error().what, name.from, to);
            return {std::sqrt(first.si), *unit, false};
        }
        if (!first.unit.isNumber())
            stop(fmt::format("{} needs a number without unit, but this is {}", name.text, named(first)), name.from, to);
        return {name.text == "ln" ? std::log(first.si) : std::exp(first.si), {}, false};
    }

    static FormulaValue extreme(const Token& name, const std::vector<Spot>& arguments, std::size_t to) {
        auto best = arguments.front().value;
        for (const auto& [value, from, end] : arguments) {
            if (!value.unit.sameAs(best.unit) || value.isTemperature != best.isTemperature)
                stop(fmt::format("{} compares {} with {}", name.text, named(best), named(value)), name.from, to);
            if (name.text == "min" ? value.si < best.si : value.si > best.si)
                best = value;
        }
        return best;
    }

    std::vector<Token> m_tokens;
    const FormulaLookup& m_lookup;
    std::size_t m_at = 0;
};

} // namespace

FormulaResult evaluateFormula(std::string_view text, const FormulaLookup& lookup) {
    try {
        return Parser(text, lookup).run();
    } catch (const Stop& found) {
        return tl::unexpected(found.mistake);
    }
}

std::string FormulaMistake::text() const {
    return fmt::format("formula, characters {} to {}: {}", from + 1, std::max(to, from + 1), what);
}

std::vector<std::string> namesIn(std::string_view formula) {
    std::vector<std::string> names;
    try {
        const auto tokens = tokensOf(formula);
        for (std::size_t i = 0; i + 1 < tokens.size(); ++i)
            if (tokens[i].sort == Sort::Name && std::ranges::find(names, tokens[i].text) == names.end() &&
                (tokens[i + 1].text != "(" ||
                 std::ranges::find(formulaFunctions, tokens[i].text) == formulaFunctions.end()))
                names.push_back(tokens[i].text);
    } catch (const Stop&) {
        return names; // a formula that cannot be split names nothing yet
    }
    return names;
}

} // namespace pyro
