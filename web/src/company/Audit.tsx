import { useInfiniteQuery } from "@tanstack/react-query";
import { api, got, wentWrong } from "../api/client";
import { Plain } from "../parts/Buttons";
import { Hall } from "../parts/Hall";
import { Row } from "../parts/Rows";
import { Complaint } from "../parts/Sheets";
import { clock } from "../parts/text";

/** For supervisors: who did what with accounts, rights and lists, and who tried. */
export function Audit() {
  const lines = useInfiniteQuery({
    queryKey: ["audit"],
    queryFn: async ({ pageParam }) =>
      got(await api.GET("/audit", { params: { query: { before: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (page) => (page.more ? page.lines.at(-1)?.id : undefined),
    retry: false,
  });
  const all = (lines.data?.pages ?? []).flatMap((p) => p.lines);
  return (
    <Hall title="Audit list" note="accounts, rights, lists: it is only added to">
      {lines.isError && <Complaint role="alert">{wentWrong(lines.error)}</Complaint>}
      {lines.data && all.length === 0 && <p>Nothing yet.</p>}
      {all.map((l) => (
        <Row key={l.id} $quiet>
          <div>
            <h2>
              {l.what}
              {l.whom && l.whom !== l.by && <>: {l.whom}</>}
            </h2>
            <p>{[`by ${l.by || "nobody"}`, clock(l.at), l.address].filter(Boolean).join(" · ")}</p>
          </div>
        </Row>
      ))}
      {lines.hasNextPage && <Plain onPress={() => void lines.fetchNextPage()}>Show more</Plain>}
    </Hall>
  );
}
