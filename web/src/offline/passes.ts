/** These say that the server or the way to it fails, not that something is wrong with what was sent. */
export const passes = (status: number) => status === 0 || status === 408 || status === 429 || status > 500;
