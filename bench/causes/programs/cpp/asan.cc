#include <cstdlib>
#include <cstring>
#include <string>
namespace skerrow { struct Table { int* rows; int priced(int z) { return rows[z]; } };
__attribute__((noinline)) int plan(Table& t, int z) { return t.priced(z); } }
int main(int, char** v) { skerrow::Table t{new int[3]}; if (v[1][0] == 'o') return skerrow::plan(t, 3); delete[] t.rows; return skerrow::plan(t, 1); }
