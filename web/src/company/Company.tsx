import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, got, Problem, wentWrong, type CompanyPage } from "../api/client";
import { OneOf, Text } from "../parts/Fields";
import { Form, Pair } from "../parts/Form";
import { Hall } from "../parts/Hall";
import { Group } from "../parts/Rows";
import { Complaint } from "../parts/Sheets";
import { Lists } from "./Lists";

const regions: Record<string, string> = { "en-GB": "day month year", "en-US": "month day, year" };

const systems: Record<string, string> = { metric: "°C, mm, mbar", customary: "°F, inches, in. w.c." };

/** The company itself, and its lists as files. */
export function Company() {
  const company = useQuery({
    queryKey: ["company"],
    queryFn: async () => got(await api.GET("/company")),
    retry: false,
  });
  return (
    <Hall title="Company" note={company.data?.name}>
      {company.isError && <Complaint role="alert">{wentWrong(company.error)}</Complaint>}
      {company.data && <Details key={company.data.version} of={company.data} />}
      <Lists />
      <Group>Who did what</Group>
      <p>
        <Link to="/audit" style={{ color: "inherit" }}>
          The audit list
        </Link>
        : accounts, rights and lists, and who tried.
      </p>
    </Hall>
  );
}

/** What somebody wrote as a number; the server says which numbers go. */
const figure = (what: string, text: string) => {
  const value = text.trim() === "" ? 0 : Number(text.trim().replace(",", "."));
  if (Number.isFinite(value)) return value;
  throw new Problem(422, `${what} is “${text}”. Write a number.`);
};

function Details({ of }: { of: CompanyPage }) {
  const queries = useQueryClient();
  const [text, setText] = useState({
    name: of.name,
    address: of.address,
    number: of.number,
    zone: of.zone,
    currency: of.currency,
    tax: String(of.tax),
    rate: String(of.rate),
    call_out: String(of.call_out),
  });
  const [region, setRegion] = useState(of.region);
  const [units, setUnits] = useState(of.units);
  const [kept, setKept] = useState(false);
  const set = (key: keyof typeof text) => (value: string) => {
    setKept(false);
    setText({ ...text, [key]: value });
  };
  const keep = async () => {
    const figures = {
      tax: figure("The tax", text.tax),
      rate: figure("An hour’s work", text.rate),
      call_out: figure("A call-out", text.call_out),
    };
    got(await api.PUT("/company", { body: { ...text, ...figures, region, units, version: of.version } }));
    setKept(true);
    await queries.invalidateQueries({ queryKey: ["company"] });
  };
  return (
    <section aria-label="The company itself">
      <Group>What stands on the customer’s sheet, and what an hour costs</Group>
      <Form keep={keep} label={kept ? "Saved" : "Save the company"}>
        <Pair>
          <Text label="Name" value={text.name} onChange={set("name")} />
          <Text label="Number, as it is registered" value={text.number} onChange={set("number")} />
        </Pair>
        <Text label="Address" value={text.address} lines={2} most={1000} onChange={set("address")} />
        <Pair>
          <Text
            label="Time zone"
            value={text.zone}
            most={60}
            onChange={set("zone")}
            note="such as Europe/Helsinki"
          />
          <Text
            label="Currency"
            value={text.currency}
            most={3}
            onChange={set("currency")}
            note="three letters, such as EUR"
          />
        </Pair>
        <OneOf
          label="How dates are written"
          values={of.regions}
          names={regions}
          value={region}
          onChange={setRegion}
        />
        <OneOf
          label="Units; both are understood"
          values={of.systems}
          names={systems}
          value={units}
          onChange={setUnits}
        />
        <Pair>
          <Text
            label="An hour’s work, without tax"
            decimal
            value={text.rate}
            most={12}
            onChange={set("rate")}
          />
          <Text
            label="A call-out, without tax"
            decimal
            value={text.call_out}
            most={12}
            onChange={set("call_out")}
          />
          <Text label="Tax, per cent" decimal value={text.tax} most={6} onChange={set("tax")} />
        </Pair>
      </Form>
    </section>
  );
}
