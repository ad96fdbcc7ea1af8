/** How long to wait in ms before something that ended is started again; `ran` is how long it lasted. */
export function nextPause(last: number, ran: number): number;
export function pauses(): { began(): void; next(): number };
