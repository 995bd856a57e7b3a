package org.vinecellar.core.access;

/** Secrets of the service itself, which every instance knows. */
public interface ServiceSecrets {
  /** The secret of that name; made when there is none. */
  byte[] secret(String name);
}
