/** The first port from this one on that nobody listens at. */
export function freeFrom(port: number): Promise<number>;
