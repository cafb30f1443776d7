import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import type { Lot, Make } from "../api/client";
import { Counter } from "./Counter";
import { begun, recorded } from "./recorded.test-helper";

const lot = (over: Partial<Lot>): Lot => ({
  lot: "front-off/1",
  side: "out",
  tray: "D",
  bag: "",
  kind: "hex 1/4 in",
  noun: "screw",
  count: 4,
  counted: null,
  differs: "",
  astray: 0,
  must_count: true,
  why: "look-alikes: count",
  empties: false,
  driver: "hex 1/4 in",
  fit: "",
  drops: "",
  loosen: false,
  hidden: false,
  renew: "",
  at: [],
  tally: begun("lot.counted", { lot: "front-off/1", side: "out", tray: "D" }),
  or: [],
  ...over,
});

const show = (over: Partial<Lot>, home = false) => recorded(<Counter lot={lot(over)} home={home} />);

afterEach(cleanup);

it("fills nothing in beforehand, and puts the count into what the core has prepared", () => {
  const made = show({});
  expect(screen.getByLabelText("Counted")).toHaveTextContent("?");
  fireEvent.click(screen.getByRole("button", { name: /^All 4/ }));
  fireEvent.click(screen.getByRole("button", { name: /^One more/ }));
  expect(made).toEqual([
    begun("lot.counted", { lot: "front-off/1", side: "out", tray: "D", count: 4 }),
    begun("lot.counted", { lot: "front-off/1", side: "out", tray: "D", count: 5 }),
  ]);
});

it("asks once for a tray that is empty when the rung is home", () => {
  show({ side: "back", empties: true }, true);
  expect(screen.getByRole("button", { name: "D empty: 4 screws back from tray D" })).toBeInTheDocument();
});

it("says where a dropped one is lost, and what may have become of it", () => {
  const dropped: Make = { kind: "lot.settled", body: { lot: "front-off/1", as: "dropped", count: 1 } };
  const made = show({
    drops: "A dropped one is lost in the duct.",
    or: [{ label: "One dropped", says: "", done: false, makes: [dropped] }],
  });
  expect(screen.getByText("A dropped one is lost in the duct.")).toBeInTheDocument();
  fireEvent.click(screen.getByRole("button", { name: "Gone? hex 1/4 in" }));
  fireEvent.click(screen.getByRole("button", { name: /^One dropped/ }));
  expect(made).toEqual([dropped]);
});

it("gives the bag's label where no tray is left", () => {
  show({ tray: "", bag: "4 screws, hex 1/4 in. Home: Front", differs: "the map says 3", counted: 4 });
  expect(screen.getByText("Label: 4 screws, hex 1/4 in. Home: Front")).toBeInTheDocument();
  expect(screen.getByText(/the map says 3: kept as a difference/)).toBeInTheDocument();
});
