/** The folder of the newest PostgreSQL server programs, or null. */
export function postgresBin(): string | null;
