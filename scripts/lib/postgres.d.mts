/** Where the database of a data folder is kept. */
export function databaseHome(dataFolder: string): string;
/** Takes a data folder away, with its database wherever that is. */
export function removeData(dataFolder: string): void;
