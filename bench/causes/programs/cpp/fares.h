#pragma once
#include <stdexcept>
#include <string>
#include <vector>
namespace skerrow {
struct Quote { int cents; int total() const { return cents; } };
inline int priced(const std::vector<int>& rows, unsigned zone) { return rows.at(zone); }
inline int height(const std::string& tide) { if (tide != "high") throw std::invalid_argument("no height for " + tide); return 4; }
}
