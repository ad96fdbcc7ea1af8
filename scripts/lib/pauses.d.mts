export function nextPause(last: number, ran: number): number;
export function pauses(): { began(): void; next(): number };
