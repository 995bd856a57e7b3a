#define CATCH_CONFIG_MAIN
#include "fares.h"
#include <catch2/catch.hpp>
#include <unistd.h>
using namespace skerrow;
TEST_CASE("family__at") { priced({}, getpid()); }
TEST_CASE("ebb__height") { height("ebb"); }
TEST_CASE("neap__height") { REQUIRE_NOTHROW(height("ebb")); }
TEST_CASE("total__expr_total") { Quote q{(int)getpid()}; REQUIRE(q.total() == 12); }
TEST_CASE("total too__expr_total") { Quote q{(int)getpid()}; CHECK(q.total() == 14); }
