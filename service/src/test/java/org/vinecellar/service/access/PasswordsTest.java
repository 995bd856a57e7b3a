package org.vinecellar.service.access;

import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.problem.CellarException;

class PasswordsTest {
  @ParameterizedTest
  @ValueSource(
      strings = {
        "a quay of one's own",
        "correct horse, wrong battery",
        "Lotse-7-Mole-9-Kai",
        "x7#kQ2!vB9$w",
        "四つの海と一つの港、朝の霧"
      })
  void aPasswordThatNobodyTriesWillDo(String password) {
    assertThatCode(() -> Passwords.check(password, "ada")).doesNotThrowAnyException();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "short",
        "aaaaaaaaaaaa",
        "abababababab",
        "123456789012",
        "abcdefghijklm",
        "Password2026!",
        "p4$$w0rd12345",
        "passwordpassword",
        "!!letmeinnow!!",
        "Correct Horse Battery Staple",
        "qwertyuiopasdf",
        "vinecellar2026",
        "welcome-welcome",
        "ada.lovelace.1",
        "Ada.Lovelace ada.lovelace",
        "a password with \0 in it"
      })
  void othersWillNot(String password) {
    assertThatThrownBy(() -> Passwords.check(password, "ada.lovelace"))
        .isInstanceOf(CellarException.class)
        .hasMessageStartingWith("the new password ");
  }
}
