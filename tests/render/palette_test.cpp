// Palettes: lightness rises evenly, bands reach both ends, reversing reverses.
#include "render/palette.h"

#include <gtest/gtest.h>

using namespace pyro;

TEST(Palette, LightnessRisesEvenlyFromDarkToLight) {
    for (const auto& [palette, from, to] :
         {std::tuple{PaletteName::Ember, 20.0, 94.0}, {PaletteName::Ash, 12.0, 94.0}}) {
        double before = lightness(paletteColour(palette, 0));
        EXPECT_NEAR(before, from, 1.5);
        for (int i = 1; i <= 100; ++i) {
            const double here = lightness(paletteColour(palette, i / 100.0));
            EXPECT_GT(here, before) << i;
            EXPECT_NEAR(here - before, (to - from) / 100, 0.55) << i; // colours beyond sRGB are clipped a little
            before = here;
        }
        EXPECT_NEAR(before, to, 1.5);
    }
}

TEST(Palette, TideIsLightestInTheMiddle) {
    const double middle = lightness(paletteColour(PaletteName::Tide, 0.5));
    for (const double share : {0.0, 0.2, 0.4, 0.6, 0.8, 1.0})
        EXPECT_LT(lightness(paletteColour(PaletteName::Tide, share)), middle);
}

TEST(Palette, StripsUseBandsAndDirection) {
    StripView strip;
    strip.bands = 5;
    EXPECT_EQ(stripColour(strip, 0.0), stripColour(strip, 0.19));
    EXPECT_NE(stripColour(strip, 0.19), stripColour(strip, 0.21));
    EXPECT_EQ(stripColour(strip, 0.0), paletteColour(PaletteName::Ember, 0));
    EXPECT_EQ(stripColour(strip, 1.0), paletteColour(PaletteName::Ember, 1))
        << "the hottest band is as light as the hottest value";
    EXPECT_EQ(stripColour(strip, 7.0), stripColour(strip, 1.0));
    StripView reversed;
    reversed.reversed = true;
    EXPECT_EQ(stripColour(reversed, 0.3), paletteColour(PaletteName::Ember, 0.7));
}

// CIE L* of known colours, from the definition in CIE 15.
TEST(Palette, LightnessOfKnownColours) {
    EXPECT_NEAR(lightness({1, 1, 1}), 100, 1e-3);
    EXPECT_NEAR(lightness({0, 0, 0}), 0, 1e-9);
    EXPECT_NEAR(lightness({0.5, 0.5, 0.5}), 53.39, 0.01);
    EXPECT_NEAR(lightness({1, 0, 0}), 53.24, 0.01);
}
