package org.vinecellar.store.sql;

import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.Collection;
import org.jooq.Binding;
import org.jooq.BindingGetResultSetContext;
import org.jooq.BindingGetSQLInputContext;
import org.jooq.BindingGetStatementContext;
import org.jooq.BindingRegisterContext;
import org.jooq.BindingSQLContext;
import org.jooq.BindingSetSQLOutputContext;
import org.jooq.BindingSetStatementContext;
import org.jooq.Converter;
import org.jooq.Converters;
import org.jooq.Field;
import org.jooq.conf.ParamType;
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

  private static final class ArrayBinding implements Binding<Integer[], Integer[]> {
    private static final long serialVersionUID = 1L;

    @Override
    public Converter<Integer[], Integer[]> converter() {
      return Converters.identity(Integer[].class);
    }

    @Override
    public void sql(BindingSQLContext<Integer[]> ctx) {
      if (ctx.render().paramType() == ParamType.INLINED) {
        ctx.render().visit(DSL.inline(ctx.value()));
      } else {
        ctx.render().sql(ctx.variable());
      }
    }

    @Override
    public void register(BindingRegisterContext<Integer[]> ctx) throws SQLException {
      throw new SQLFeatureNotSupportedException();
    }

    @Override
    public void set(BindingSetStatementContext<Integer[]> ctx) throws SQLException {
      ctx.statement()
          .setArray(
              ctx.index(), ctx.statement().getConnection().createArrayOf("int4", ctx.value()));
    }

    @Override
    public void set(BindingSetSQLOutputContext<Integer[]> ctx) throws SQLException {
      throw new SQLFeatureNotSupportedException();
    }

    @Override
    public void get(BindingGetResultSetContext<Integer[]> ctx) throws SQLException {
      throw new SQLFeatureNotSupportedException();
    }

    @Override
    public void get(BindingGetStatementContext<Integer[]> ctx) throws SQLException {
      throw new SQLFeatureNotSupportedException();
    }

    @Override
    public void get(BindingGetSQLInputContext<Integer[]> ctx) throws SQLException {
      throw new SQLFeatureNotSupportedException();
    }
  }
}
