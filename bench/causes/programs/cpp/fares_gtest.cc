#include "fares.h"
#include <gtest/gtest.h>
#include <unistd.h>
using namespace skerrow;
TEST(Fares, Family__at) { priced({}, getpid()); }
TEST(Fares, Ebb__height) { height("ebb"); }
TEST(Fares, Neap__height) { EXPECT_NO_THROW(height("ebb")); }
TEST(Fares, Total__expr_total) { Quote q{(int)getpid()}; EXPECT_EQ(q.total(), 12); }
TEST(Fares, TotalToo__expr_total) { Quote q{(int)getpid()}; EXPECT_EQ(q.total(), 14) << "of a family"; }
TEST(Fares, Seats__bare_seats) { int seats = getpid(); EXPECT_EQ(seats, 3); }
TEST(Fares, Open__expr_open) { EXPECT_TRUE(height("high") == 5); }
