import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Me } from "../api/client";
import { Around, jonna } from "../testing/open";
import { answering } from "../testing/server";
import { ChooseOwn } from "./ChooseOwn";
import { SignIn } from "./SignIn";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const write = (label: string | RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));

const shown = (over = false) => {
  const signedIn: Me[] = [];
  const closed = vi.fn();
  render(
    <Around>
      <SignIn
        over={over}
        name={over ? "jonna" : ""}
        onSignedIn={(me) => signedIn.push(me)}
        onClose={closed}
      />
    </Around>,
  );
  return { signedIn, closed };
};

describe("signing in", () => {
  it("asks for both before it asks the server", () => {
    const sent = answering({});
    shown();
    write("Name", "jonna");
    press("Sign in");
    expect(screen.getByRole("alert")).toHaveTextContent("Enter your name and your password.");
    expect(sent).toEqual([]);
  });

  it("lets in whom the server knows, once for two touches", async () => {
    const sent = answering({ "POST /sign-in": jonna });
    const { signedIn } = shown();
    write("Name", "jonna");
    write("Password", "ferry-0640");
    press("Sign in");
    press("Signing in …");
    await waitFor(() => expect(signedIn).toHaveLength(1));
    expect(sent).toEqual([{ what: "POST /sign-in", body: { name: "jonna", password: "ferry-0640" } }]);
    expect(signedIn[0]?.name).toBe("Jonna Vik");
  });

  it("says what the server says, and keeps what was written", async () => {
    answering({ "POST /sign-in": { status: 401, problem: "Name and password do not belong together." } });
    const { signedIn } = shown();
    write("Name", "jonna");
    write("Password", "wrong");
    press("Sign in");
    expect(await screen.findByRole("alert")).toHaveTextContent("do not belong together");
    expect(screen.getByLabelText("Name")).toHaveValue("jonna");
    expect(screen.getByRole("button", { name: "Sign in" })).toBeEnabled();
    expect(signedIn).toEqual([]);
  });

  it("says that nobody answers where there is no signal", async () => {
    answering({});
    shown();
    write("Name", "jonna");
    write("Password", "ferry-0640");
    press("Sign in");
    expect(await screen.findByRole("alert")).toHaveTextContent("The server does not answer.");
  });

  it("stands over the open screen after a session has ended, and can wait", () => {
    const { closed } = shown(true);
    expect(screen.getByRole("dialog")).toHaveTextContent("What you recorded is on this device");
    expect(screen.getByLabelText("Name")).toHaveValue("jonna");
    press("Later");
    expect(closed).toHaveBeenCalledOnce();
  });
});

describe("a password of one’s own", () => {
  const own = () => {
    const chosen = vi.fn();
    render(
      <Around>
        <ChooseOwn me={jonna} onChosen={chosen} />
      </Around>,
    );
    return chosen;
  };

  it("is long enough, and the same twice", () => {
    const sent = answering({});
    own();
    write(/^Your password/, "short");
    press("Keep it");
    expect(screen.getByRole("alert")).toHaveTextContent("at least 10 letters");
    write(/^Your password/, "violet otter quays");
    write("The same again", "violet otter quay");
    press("Keep it");
    expect(screen.getByRole("alert")).toHaveTextContent("not the same");
    expect(sent).toEqual([]);
  });

  it("is kept by the server", async () => {
    const sent = answering({ "POST /me/password": {} });
    const chosen = own();
    write(/^Your password/, "violet otter quays");
    write("The same again", "violet otter quays");
    press("Keep it");
    await waitFor(() => expect(chosen).toHaveBeenCalledOnce());
    expect(sent).toEqual([{ what: "POST /me/password", body: { new: "violet otter quays" } }]);
  });
});
