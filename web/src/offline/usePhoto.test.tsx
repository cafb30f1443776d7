import { cleanup, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Around } from "../testing/open";
import { db } from "./db";
import { usePhoto } from "./photos";

vi.mock("../parts/photo", () => ({
  shrink: async () => ({ sha256: "aa", whole: new Blob(["whole"]), small: new Blob(["small"]) }),
  sendPhoto: () => Promise.resolve(),
}));

function Shown() {
  const { url, away, waiting } = usePhoto("aa", "small");
  return <p>{away ? "away" : url ? (waiting ? "here, waiting" : "here") : "…"}</p>;
}

const show = () =>
  render(
    <Around>
      <Shown />
    </Around>,
  );

beforeEach(async () => {
  await db.photos.clear();
  Object.assign(URL, { createObjectURL: () => "blob:here", revokeObjectURL: () => undefined });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("a photo", () => {
  it("says by itself when it has been sent", async () => {
    await db.photos.put({ sha256: "aa", state: "waiting", whole: new Blob(["w"]), small: new Blob(["s"]) });
    show();
    expect(await screen.findByText("here, waiting")).toBeVisible();
    await db.photos.update("aa", { state: "sent" });
    expect(await screen.findByText("here")).toBeVisible();
  });

  it("is fetched from the server once, and kept", async () => {
    const fetched = vi.fn(async () => new Response(new Blob(["whole"])));
    vi.stubGlobal("fetch", fetched);
    show();
    expect(await screen.findByText("here")).toBeVisible();
    await waitFor(async () => expect(await db.photos.get("aa")).toMatchObject({ state: "sent" }));
    cleanup();
    show();
    expect(await screen.findByText("here")).toBeVisible();
    expect(fetched).toHaveBeenCalledOnce();
  });

  it("is away while nobody can give it", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no signal")));
    show();
    expect(await screen.findByText("away")).toBeVisible();
  });
});
