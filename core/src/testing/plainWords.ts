/** Words that puzzled readers of the core’s sentences and of the page: none of them is used there. */
export const puzzlingWords =
  /\b(stands?|stood|told|bears?|wants?|ask(s|ed) for|asks|kept|keeps|mends?|mended|lives at|let go|let pass|answered for|drops off|run out|short-changed|throws|thrown away|keyed|key in|to key|plateau|worth a word|harms?)\b/i;
