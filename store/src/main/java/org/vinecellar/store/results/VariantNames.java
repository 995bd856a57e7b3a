package org.vinecellar.store.results;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.Variant;
import org.vinecellar.store.sql.Json;

/** Numbers for variants of one project. An upload has few of them. */
final class VariantNames {
  private static final int MOST = 1000;

  private final Connection connection;
  private final int projectId;
  private final Map<Variant, Integer> numbers = new HashMap<>();

  /**
   * @param connection that commits by itself
   */
  VariantNames(Connection connection, int projectId) {
    this.connection = connection;
    this.projectId = projectId;
  }

  /** Takes notice of the tests' variants, and adds what is new. */
  void learn(List<TestId> tests) throws SQLException {
    for (TestId test : tests) {
      Variant variant = test.variant();
      if (!variant.isNone() && !numbers.containsKey(variant)) {
        if (numbers.size() == MOST) {
          throw new CellarException(
              ProblemCode.TOO_LARGE,
              "the upload has tests in more than "
                  + MOST
                  + " variants; tell fewer apart, or send it in parts (--run KEY)");
        }
        numbers.put(variant, number(variant));
      }
    }
  }

  /** Of a variant that was learned. */
  int of(Variant variant) {
    Integer number = numbers.get(variant);
    if (number == null) {
      throw new IllegalStateException("a variant that was not learned");
    }
    return number;
  }

  /** With its words, in one statement: whoever finds it finds them too. */
  private int number(Variant variant) throws SQLException {
    try (PreparedStatement insert =
        connection.prepareStatement(
            "with made as (insert into variant (project_id, key_high, key_low, words)"
                + " values (?, ?, ?, cast(? as jsonb))"
                + " on conflict (project_id, key_high, key_low) do nothing"
                + " returning project_id, id, words), told as ("
                + "insert into variant_word (project_id, variant_id, key, value)"
                + " select m.project_id, m.id, w.key, w.value"
                + " from made m cross join jsonb_each_text(m.words) w)"
                + " select id from made")) {
      insert.setInt(1, projectId);
      insert.setLong(2, variant.key().high());
      insert.setLong(3, variant.key().low());
      insert.setString(4, Json.text(variant.words()));
      try (ResultSet made = insert.executeQuery()) {
        return made.next() ? made.getInt(1) : known(variant);
      }
    }
  }

  private int known(Variant variant) throws SQLException {
    try (PreparedStatement select =
        connection.prepareStatement(
            "select id from variant where project_id = ? and key_high = ? and key_low = ?")) {
      select.setInt(1, projectId);
      select.setLong(2, variant.key().high());
      select.setLong(3, variant.key().low());
      try (ResultSet row = select.executeQuery()) {
        if (!row.next()) {
          throw new IllegalStateException("a variant vanished right after it was added");
        }
        return row.getInt(1);
      }
    }
  }
}
