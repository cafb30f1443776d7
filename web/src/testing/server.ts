// A server for the tests of the pages: it answers as the real one was heard to
// answer (testing/answers, which a test of the server keeps true).
import { vi } from "vitest";

export { default as company } from "./answers/company.json";
export { default as heard } from "./answers/heard.json";
export { default as heardGas } from "./answers/heard-gas.json";
export { default as machine } from "./answers/machine.json";
export { default as people } from "./answers/people.json";
export { default as places } from "./answers/places.json";

interface Sent {
  what: string;
  body: unknown;
}

/** What it answers: a document, or a status with its problem. */
type Answer = object | { status: number; problem: string; type?: string };
type Answers = Record<string, Answer | ((body: unknown) => Answer)>;

/** Answers "POST /sign-in" and the like; what was sent with them stands in the list. */
export function answering(answers: Answers): Sent[] {
  const sent: Sent[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const what = `${request.method} ${new URL(request.url).pathname.replace(/^\/api/, "")}`;
    const text = await request.text();
    const body: unknown = text ? JSON.parse(text) : undefined;
    if (request.method !== "GET") sent.push({ what, body });
    const found = answers[what];
    if (!found) throw new TypeError(`nobody answers ${what}`);
    const answer = typeof found === "function" ? found(body) : found;
    if ("problem" in answer && "status" in answer)
      return Response.json(
        { title: answer.problem, detail: answer.problem, ...answer },
        { status: answer.status, headers: { "Content-Type": "application/problem+json" } },
      );
    return Response.json(answer);
  });
  return sent;
}
