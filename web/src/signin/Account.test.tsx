import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Around, mira, openAt } from "../testing/open";
import { answering } from "../testing/server";
import { Account } from "./Account";
import { SignIn } from "./SignIn";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const here = {
  id: "aa",
  device: "Browser/1.0 (Mobile)",
  address: "10.0.0.4",
  made: "2026-11-29T08:00:00Z",
  seen: "2026-11-29T09:00:00Z",
  this: true,
};
const there = { ...here, id: "bb", device: "Browser B", address: "10.0.0.9", this: false };
const write = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe("one’s own account", () => {
  it("says where one is signed in, and ends what is not here", async () => {
    const sent = answering({
      "GET /me/account": { second: false, spares: 0, sessions: [here, there] },
      "DELETE /me/sessions/bb": {},
    });
    openAt(<Account />, "/account", "*", mira);
    expect(await screen.findByText("None: the password alone lets in.")).toBeVisible();
    expect(screen.getByRole("heading", { name: "Here" })).toBeVisible();
    expect(screen.getByText(/^a phone or tablet · since/)).toBeVisible();
    expect(screen.getByText(/^a computer · since/)).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: /^End the session 10\.0\.0\.9/ }));
    await waitFor(() => expect(sent.map((s) => s.what)).toEqual(["DELETE /me/sessions/bb"]));
  });

  it("begins a second factor: password, secret, digits, spare codes", async () => {
    const sent = answering({
      "GET /me/account": { second: false, spares: 0, sessions: [here] },
      "POST /me/second": { secret: "GEZDGNBV", picture: "data:image/png;base64,AAAA" },
      "PUT /me/second": { spares: ["aaaa-bbbb", "cccc-dddd"] },
    });
    openAt(<Account />, "/account", "*", mira);
    fireEvent.click(await screen.findByRole("button", { name: "Begin one" }));
    write("Your password", "secret words");
    fireEvent.click(screen.getByRole("button", { name: "Go on" }));
    expect(await screen.findByText("GEZDGNBV")).toBeVisible();
    expect(screen.getByAltText("The secret as a QR code")).toHaveAttribute(
      "src",
      "data:image/png;base64,AAAA",
    );
    write("Six digits", "123456");
    fireEvent.click(screen.getByRole("button", { name: "It shows these" }));
    expect(await screen.findByText("aaaa-bbbb")).toBeVisible();
    expect(sent.map((s) => s.body)).toEqual([{ password: "secret words" }, { digits: "123456" }]);
    fireEvent.click(within(screen.getByRole("dialog")).getByRole("button", { name: "I have them" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("warns when few spare codes are left, and can do without", async () => {
    const sent = answering({
      "GET /me/account": { second: true, spares: 2, sessions: [here] },
      "POST /me/second/end": { status: 403, problem: "The password is wrong. Try again." },
    });
    openAt(<Account />, "/account", "*", mira);
    expect(await screen.findByText(/^Few spare codes are left/)).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: "Do without" }));
    write("Your password", "wrong");
    fireEvent.click(within(screen.getByRole("dialog")).getByRole("button", { name: "Do without" }));
    expect(await screen.findByText("The password is wrong. Try again.")).toBeVisible();
    expect(sent).toHaveLength(1);
  });
});

describe("signing in with a second factor", () => {
  it("asks for the digits once the password is right", async () => {
    const sent = answering({
      "POST /sign-in": (body) =>
        (body as { second?: string }).second === "123456"
          ? mira
          : {
              status: 401,
              type: "second-factor",
              problem: "Enter the six digits of your authenticator, or a spare code.",
            },
    });
    const signedIn = vi.fn();
    render(
      <Around>
        <SignIn onSignedIn={signedIn} />
      </Around>,
    );
    expect(screen.queryByLabelText(/^Six digits/)).toBeNull();
    write("Name", "mira");
    write("Password", "secret words");
    fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
    await screen.findByLabelText(/^Six digits/);
    write("Six digits of your authenticator, or a spare code", "123456");
    fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
    await waitFor(() => expect(signedIn).toHaveBeenCalledWith(mira));
    expect(sent).toHaveLength(2);
  });
});
