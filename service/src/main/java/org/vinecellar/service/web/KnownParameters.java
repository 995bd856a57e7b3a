package org.vinecellar.service.web;

import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.container.ContainerRequestContext;
import jakarta.ws.rs.container.ResourceInfo;
import java.lang.reflect.Method;
import java.lang.reflect.Parameter;
import java.util.Arrays;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.jboss.resteasy.reactive.server.ServerRequestFilter;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * Refuses parameters of an address that nobody reads: with one that is mistyped, a list would look
 * as if it were filtered.
 */
public class KnownParameters {
  private static final int SHOWN = 40;

  private final Map<Method, Set<String>> known = new ConcurrentHashMap<>();

  @ServerRequestFilter
  void look(ContainerRequestContext request, ResourceInfo resource) {
    Set<String> asked = request.getUriInfo().getQueryParameters().keySet();
    Method method = resource.getResourceMethod();
    if (asked.isEmpty() || method == null) {
      return;
    }
    Set<String> names = known.computeIfAbsent(method, KnownParameters::names);
    for (String name : asked) {
      if (!names.contains(name)) {
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            "the address has a parameter “"
                + (name.length() > SHOWN ? name.substring(0, SHOWN) + "…" : name)
                + "” that is not known here"
                + (names.isEmpty()
                    ? "; there are none"
                    : "; there are: " + String.join(", ", names)));
      }
    }
  }

  private static Set<String> names(Method method) {
    return Arrays.stream(method.getParameters())
        .map(KnownParameters::name)
        .filter(name -> !name.isEmpty())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static String name(Parameter parameter) {
    QueryParam query = parameter.getAnnotation(QueryParam.class);
    return query == null ? "" : query.value();
  }
}
