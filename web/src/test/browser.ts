import { vi } from 'vitest';

/* In a browser an address stands for one of the page's server. */
const Absolute = globalThis.Request;
globalThis.Request = class extends Absolute {
  constructor(asked: RequestInfo | URL, init?: RequestInit) {
    super(typeof asked === 'string' ? new URL(asked, window.location.href) : asked, init);
  }
};

/* What jsdom lacks and Mantine asks for. */
Object.defineProperty(window, 'matchMedia', {
  value: (query: string) => ({
    matches: false,
    media: query,
    onchange: null,
    addEventListener: vi.fn(),
    removeEventListener: vi.fn(),
    dispatchEvent: vi.fn(),
  }),
});
window.ResizeObserver = class {
  observe = vi.fn();
  unobserve = vi.fn();
  disconnect = vi.fn();
};
Element.prototype.scrollIntoView = vi.fn();
