package org.vinecellar.e2e;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.junit.jupiter.api.parallel.ResourceLock;

/**
 * Uses the portal that tests share: one class after the other, while those with portals of their
 * own run beside them.
 */
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
@ResourceLock("the shared portal")
@interface OnSharedPortal {}
