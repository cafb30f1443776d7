import "fake-indexeddb/auto";
import "@testing-library/jest-dom/vitest";

// Node asks for whole addresses; in a browser a path belongs to the page's own.
const Asked = globalThis.Request;
globalThis.Request = class extends Asked {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === "string" ? new URL(input, "http://evensteps.test") : input, init);
  }
};
