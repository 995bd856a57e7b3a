package org.vinecellar.store.sql;

import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.Collection;
import org.jooq.BindingGetResultSetContext;
import org.jooq.BindingSetStatementContext;
import org.jooq.Converter;
import org.jooq.Converters;
import org.jooq.Field;
import org.jooq.impl.AbstractBinding;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;

/**
 * Many numbers as one parameter, for {@code = any(?)}. As a list of PostgreSQL's own: one that is
 * written as text and cast would be read anew for every row that it is compared with, and could not
 * be hashed.
 */
public final class Ids {
  private Ids() {}

  /** As a field for plain SQL or a condition. */
  public static Field<Integer[]> of(Collection<? extends Number> ids) {
    return of(ids.stream().map(Number::intValue).toArray(Integer[]::new));
  }

  /** The same. */
  public static Field<Integer[]> of(Integer... ids) {
    return DSL.val(
        ids, SQLDataType.INTEGER.getArrayDataType().asConvertedDataType(new ArrayBinding()));
  }

  private static final class ArrayBinding extends AbstractBinding<Integer[], Integer[]> {
    private static final long serialVersionUID = 1L;

    @Override
    public Converter<Integer[], Integer[]> converter() {
      return Converters.identity(Integer[].class);
    }

    @Override
    public void set(BindingSetStatementContext<Integer[]> ctx) throws SQLException {
      ctx.statement()
          .setArray(
              ctx.index(), ctx.statement().getConnection().createArrayOf("int4", ctx.value()));
    }

    @Override
    public void get(BindingGetResultSetContext<Integer[]> ctx) throws SQLException {
      throw new SQLFeatureNotSupportedException("lists of numbers are only asked with");
    }
  }
}
