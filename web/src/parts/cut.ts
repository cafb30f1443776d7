const letters = new Intl.Segmenter(undefined, { granularity: "grapheme" });

/** The first letters of a text, as people see letters: none is cut in two. */
export function cut(text: string, most: number): string {
  let end = 0;
  let n = 0;
  for (const { index, segment } of letters.segment(text)) {
    if (n++ >= most) break;
    end = index + segment.length;
  }
  return text.slice(0, end);
}
