package org.vinecellar.core.trust.renames;

import java.util.Arrays;

/**
 * The best way to give each row at most one column of its own: that of the greatest sum (the
 * Hungarian method with potentials; R. Jonker and A. Volgenant, "A shortest augmenting path
 * algorithm", 1987).
 */
final class Assignment {
  private Assignment() {}

  /**
   * @param gains of each row with each column; what gains nothing is better left
   * @return the column of each row; -1 for none
   */
  static int[] best(double[][] gains) {
    int rows = gains.length;
    int columns = rows == 0 ? 0 : gains[0].length;
    // A row may always have a column of its own that gains nothing.
    int all = columns + rows;
    double[] ofRow = new double[rows + 1];
    double[] ofColumn = new double[all + 1];
    int[] taken = new int[all + 1];
    int[] way = new int[all + 1];
    for (int row = 1; row <= rows; row++) {
      taken[0] = row;
      int column = 0;
      double[] least = new double[all + 1];
      Arrays.fill(least, Double.MAX_VALUE);
      boolean[] used = new boolean[all + 1];
      do {
        used[column] = true;
        int from = taken[column];
        double step = Double.MAX_VALUE;
        int next = 0;
        for (int c = 1; c <= all; c++) {
          if (!used[c]) {
            double gain = c <= columns ? Math.max(gains[from - 1][c - 1], -1e9) : 0;
            double cost = -gain - ofRow[from] - ofColumn[c];
            if (cost < least[c]) {
              least[c] = cost;
              way[c] = column;
            }
            if (least[c] < step) {
              step = least[c];
              next = c;
            }
          }
        }
        for (int c = 0; c <= all; c++) {
          if (used[c]) {
            ofRow[taken[c]] += step;
            ofColumn[c] -= step;
          } else {
            least[c] -= step;
          }
        }
        column = next;
      } while (taken[column] != 0);
      do {
        int before = way[column];
        taken[column] = taken[before];
        column = before;
      } while (column != 0);
    }
    int[] best = new int[rows];
    Arrays.fill(best, -1);
    for (int c = 1; c <= columns; c++) {
      if (taken[c] > 0 && gains[taken[c] - 1][c - 1] > 0) {
        best[taken[c] - 1] = c - 1;
      }
    }
    return best;
  }
}
