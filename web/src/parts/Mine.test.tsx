import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import { keepSpeech, keptSpeech } from "../offline/db";
import { openOn } from "../testing/open";
import { goingIn } from "../testing/views";
import { Mine } from "./Mine";

afterEach(cleanup);

it("says whose words and units hold, takes one's own, and goes back to the company's", async () => {
  await keepSpeech({ region: "", units: "" });
  openOn(goingIn, () => <Mine rooms={[]} />);
  fireEvent.click(screen.getByRole("button", { name: "Jonna Vik" }));
  const [words, units] = await screen.findAllByRole("radio", { name: "the company’s" });
  await waitFor(() => expect(words).toBeChecked());
  expect(units).toBeChecked();
  fireEvent.click(screen.getByRole("radio", { name: "American" }));
  fireEvent.click(screen.getByRole("radio", { name: "°F, inch, in. w.c." }));
  await waitFor(async () => expect(await keptSpeech()).toEqual({ region: "en-US", units: "customary" }));
  expect(words).not.toBeChecked();
  if (words) fireEvent.click(words);
  await waitFor(async () => expect(await keptSpeech()).toEqual({ region: "", units: "customary" }));
});
