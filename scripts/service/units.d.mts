export const UNITS: readonly string[];
/** What units that were written say of themselves. */
export function settingsIn(
	service: string,
	backup: string,
	socket: string,
): { checkout: string | null; user: string | null; data: string | null; port: number; backups: string | null; keep: number };
