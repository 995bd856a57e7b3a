package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.parallel.ResourceLock;

/**
 * Uses the portal that tests share: one class after the other, while those with portals of their
 * own run beside them.
 */
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
@ResourceLock("the shared portal")
@ExtendWith(OnSharedPortal.Unharmed.class)
@interface OnSharedPortal {

  /**
   * No test may bring it down: the supervisor starts it again, so that only some of them notice.
   */
  final class Unharmed implements AfterAllCallback {
    @Override
    public void afterAll(ExtensionContext context) {
      assertThat(Portal.shared().data.resolve("supervisor.log"))
          .content()
          .as("the service of the shared portal ended during this class or one beside it")
          .doesNotContain("ended by itself");
    }
  }
}
