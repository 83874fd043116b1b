#include "demo_market/script.h"

namespace sieve::demo_market {

namespace {

std::vector<Script> written()
{
    std::vector<Script> all;
    all.push_back({"a cup with a handle, and its breakout on volume",
                   {{80, 1.60, 1.2},
                    {35, 1.22, 0.9},
                    {20, 1.20, 0.6},
                    {40, 1.58, 1.0},
                    {8, 1.49, 0.6},
                    {6, 1.50, 0.45},
                    {12, 1.78, 2.4}},
                   0.004,
                   {},
                   190});
    all.push_back({"a flat base of seven weeks, and its breakout",
                   {{60, 1.50, 1.3}, {35, 1.49, 0.6}, {10, 1.72, 2.2}},
                   0.0045,
                   {},
                   96});
    all.push_back({"a double bottom",
                   {{30, 0.70, 1.2}, {20, 0.86, 0.9}, {20, 0.685, 1.0}, {30, 1.02, 1.5}},
                   0.005,
                   {},
                   70});
    all.push_back({"base after base: four rises of a quarter, each with its rest",
                   {{25, 1.25, 1.5},
                    {35, 1.18, 0.6},
                    {25, 1.50, 1.5},
                    {35, 1.42, 0.6},
                    {25, 1.80, 1.5},
                    {35, 1.70, 0.6},
                    {25, 2.15, 1.6},
                    {30, 2.05, 0.6}},
                   0.004,
                   {},
                   205});
    all.push_back({"fourteen rises in fifteen sessions on growing volume",
                   {{40, 1.02, 0.8}, {5, 1.07, 1.1}, {5, 1.13, 1.5}, {5, 1.20, 2.0}},
                   0.0004,
                   {},
                   54});
    all.push_back({"a report with a gap up that holds",
                   {{40, 1.03, 0.8}, {1, 1.15, 4.0}, {45, 1.34, 1.2}},
                   0.004,
                   {{40, 0.12}},
                   40,
                   {},
                   true});
    all.push_back({"a report with a gap up that fails",
                   {{40, 1.03, 0.8}, {1, 1.14, 4.0}, {12, 0.95, 1.6}, {25, 0.90, 0.9}},
                   0.004,
                   {{40, 0.12}},
                   40,
                   {},
                   true});
    all.push_back({"a report with a gap down that holds",
                   {{40, 1.00, 0.8}, {1, 0.86, 4.0}, {40, 0.72, 1.1}},
                   0.004,
                   {{40, -0.13}},
                   40,
                   {},
                   true});
    all.push_back({"a report with a gap down that is closed",
                   {{40, 1.00, 0.8}, {1, 0.88, 4.0}, {20, 1.04, 1.4}, {15, 1.08, 0.9}},
                   0.004,
                   {{40, -0.12}},
                   40,
                   {},
                   true});
    all.push_back({"a run that ends: doubled in half a year, a quarter lost in five weeks",
                   {{120, 2.05, 1.3}, {25, 1.50, 1.9}, {30, 1.46, 0.8}},
                   0.006,
                   {},
                   120});
    all.push_back({"pullbacks to a rising 50-day average",
                   {{60, 1.30, 1.1},
                    {12, 1.21, 0.6},
                    {35, 1.52, 1.1},
                    {12, 1.40, 0.6},
                    {35, 1.74, 1.1},
                    {12, 1.62, 0.6},
                    {4, 1.66, 1.2}},
                   0.003,
                   {},
                   165});
    all.push_back({"closes within one percent for two weeks after a rise",
                   {{50, 1.28, 1.2}, {10, 1.282, 0.35}},
                   0.0012,
                   {},
                   59});
    all.push_back({"first advance, long sideways phase, first week's low undercut, first base",
                   {{5, 1.04, 2.0},
                    {30, 1.42, 1.5},
                    {70, 1.02, 0.8},
                    {4, 0.93, 1.0},
                    {16, 1.20, 1.2},
                    {35, 1.18, 0.6},
                    {10, 1.40, 2.0}},
                   0.004,
                   {},
                   108});
    all.push_back({"a halt of twelve sessions",
                   {{30, 1.05, 0.9}, {12, 1.05, 1.0}, {20, 0.92, 2.0}},
                   0.005,
                   {{42, -0.06}},
                   30,
                   {30, 31, 32, 33, 34, 35, 36, 37, 38, 39, 40, 41}});
    all.push_back(
        {"an island: a gap up, five sessions apart, a gap down",
         {{40, 1.05, 0.9}, {1, 1.15, 2.5}, {5, 1.16, 1.4}, {1, 1.05, 2.5}, {20, 0.98, 1.0}},
         0.003,
         {{40, 0.085}, {46, -0.085}},
         46});
    return all;
}

} // namespace

int Script::sessions() const
{
    int all = 0;
    for (const Leg& leg : legs)
        all += leg.sessions;
    return all;
}

double Script::levelAt(int session) const
{
    double from = 1.0;
    for (const Leg& leg : legs) {
        if (session < leg.sessions)
            return from + (leg.to - from) * (session + 1) / leg.sessions;
        session -= leg.sessions;
        from = leg.to;
    }
    return from;
}

double Script::volumeAt(int session) const
{
    for (const Leg& leg : legs) {
        if (session < leg.sessions)
            return leg.volume;
        session -= leg.sessions;
    }
    return 1.0;
}

const std::vector<Script>& scripts()
{
    static const std::vector<Script> all = written();
    return all;
}

} // namespace sieve::demo_market
