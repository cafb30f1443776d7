import { beforeEach, describe, expect, it, vi } from "vitest";

vi.stubGlobal("navigator", {
  ...navigator,
  locks: { request: (_name: string, run: () => unknown) => run() },
});

const answers: (number | "none")[] = [];
const put: string[] = [];
vi.mock("../parts/photo", async () => {
  const { Problem } = await import("../api/client");
  return {
    shrink: vi.fn(),
    sendPhoto: (sha256: string) => {
      put.push(sha256);
      const status = answers.shift() ?? "none";
      if (status === "none") return Promise.reject(new TypeError("no signal"));
      if (status < 300) return Promise.resolve();
      return Promise.reject(new Problem(status, "The picture is cut off. Send it again."));
    },
  };
});

const { db } = await import("./db");
const { sendPhotos, takePhoto } = await import("./photos");
const { shrink } = await import("../parts/photo");

const kept = (sha256: string) =>
  db.photos.put({ sha256, state: "waiting", whole: new Blob(["whole"]), small: new Blob(["small"]) });
const states = async () => Object.fromEntries((await db.photos.toArray()).map((p) => [p.sha256, p.state]));

describe("photos that wait on the device", () => {
  beforeEach(async () => {
    await db.photos.clear();
    answers.length = 0;
    put.length = 0;
  });

  it("are sent once each, and stay to be seen", async () => {
    await kept("aa");
    await kept("bb");
    answers.push(204, 204);
    await sendPhotos();
    await sendPhotos();
    expect(put).toEqual(["aa", "bb"]);
    expect(await states()).toEqual({ aa: "sent", bb: "sent" });
  });

  it("wait on without signal, without a session and while the server is down", async () => {
    for (const answer of ["none", 401, 503] as const) {
      await kept("aa");
      answers.push(answer);
      await sendPhotos();
      expect(await states()).toEqual({ aa: "waiting" });
    }
    answers.push(204);
    await sendPhotos();
    expect(await states()).toEqual({ aa: "sent" });
  });

  it("that are refused keep their problem and stop no other", async () => {
    await kept("aa");
    await kept("bb");
    answers.push(422, 204);
    await sendPhotos();
    expect(await states()).toEqual({ aa: "refused", bb: "sent" });
    expect((await db.photos.get("aa"))?.problem).toContain("cut off");
  });

  it("say plainly that there was no room, and are not named on the record then", async () => {
    vi.mocked(shrink).mockResolvedValue({
      sha256: "cc",
      whole: new Blob(["whole"]),
      small: new Blob(["small"]),
    });
    const full = vi
      .spyOn(db.photos, "put")
      .mockRejectedValue(new DOMException("full", "QuotaExceededError") as never);
    await expect(takePhoto(new Blob())).rejects.toThrow("this device has no room");
    full.mockRestore();
    expect(await takePhoto(new Blob())).toBe("cc");
    expect(await states()).toEqual({ cc: "waiting" });
  });
});
