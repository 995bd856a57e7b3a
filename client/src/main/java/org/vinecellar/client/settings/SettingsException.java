package org.vinecellar.client.settings;

/** A settings file that cannot be used. The message names the file, the place and what to do. */
public final class SettingsException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  SettingsException(String message, Throwable cause) {
    super(message, cause);
  }

  SettingsException(String message) {
    super(message);
  }
}
