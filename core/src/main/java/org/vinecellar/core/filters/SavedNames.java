package org.vinecellar.core.filters;

import org.jspecify.annotations.Nullable;

/** Saved filters that a filter may name. */
public interface SavedNames {
  /** The word before the name of one that all of a project have. */
  String SHARED = "saved";

  /** The word before the name of one's own. */
  String MINE = "mine";

  /** None. */
  SavedNames NONE =
      new SavedNames() {
        @Override
        public @Nullable SavedFilter shared(String name) {
          return null;
        }

        @Override
        public @Nullable SavedFilter mine(String name) {
          return null;
        }

        @Override
        public String whyNot(String word, String name) {
          return "saved filters cannot be named here; write out what it picks";
        }
      };

  /** The one of that name that all of the project have; null when there is none. */
  @Nullable SavedFilter shared(String name);

  /** One's own of that name; null when there is none. */
  @Nullable SavedFilter mine(String name);

  /** What is said of a name that there is not. */
  default String whyNot(String word, String name) {
    return word.equals(SHARED)
        ? "there is no saved filter “" + name + "” in this project"
        : "you have no filter of your own that is called “"
            + name
            + "”; where somebody else has one, ask them to share it";
  }

  /** Those of them that others have, too. */
  default SavedNames sharedAlone() {
    SavedNames all = this;
    return new SavedNames() {
      @Override
      public @Nullable SavedFilter shared(String name) {
        return all.shared(name);
      }

      @Override
      public @Nullable SavedFilter mine(String name) {
        return null;
      }

      @Override
      public String whyNot(String word, String name) {
        return word.equals(SHARED)
            ? all.whyNot(word, name)
            : "what others see cannot hang on a filter of your own; share “" + name + "” first";
      }
    };
  }
}
