// Where a page may keep nothing, because it has no origin or the browser forbids it, what it keeps
// lasts as long as the page: its own scripts must not fail over that.
(() => {
  const keep = (name) => {
    try {
      window[name].length;
      return;
    } catch {
      // forbidden here
    }
    const kept = new Map();
    const storage = {
      getItem: (key) => kept.get(String(key)) ?? null,
      setItem: (key, value) => {
        kept.set(String(key), String(value));
      },
      removeItem: (key) => {
        kept.delete(String(key));
      },
      clear: () => kept.clear(),
      key: (at) => [...kept.keys()][at] ?? null,
    };
    const value = new Proxy(storage, {
      get: (own, key) => (key === 'length' ? kept.size : (own[key] ?? kept.get(key))),
      set: (_, key, item) => {
        kept.set(String(key), String(item));
        return true;
      },
      deleteProperty: (_, key) => {
        kept.delete(key);
        return true;
      },
      has: (own, key) => key in own || kept.has(key),
      ownKeys: () => [...kept.keys()],
      getOwnPropertyDescriptor: (_, key) =>
        kept.has(key)
          ? { value: kept.get(key), writable: true, enumerable: true, configurable: true }
          : undefined,
    });
    Object.defineProperty(window, name, { configurable: true, value });
  };
  keep('localStorage');
  keep('sessionStorage');
  try {
    document.cookie;
  } catch {
    Object.defineProperty(document, 'cookie', {
      configurable: true,
      get: () => '',
      set: () => {},
    });
  }
  for (const name of ['pushState', 'replaceState']) {
    const plain = history[name];
    history[name] = function (state, unused, url) {
      try {
        plain.call(this, state, unused, url);
      } catch {
        // Without an origin the address stays; what the page shows may well change.
        plain.call(this, state, unused);
      }
    };
  }
})();
