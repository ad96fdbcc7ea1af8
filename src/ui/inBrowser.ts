import { useSyncExternalStore } from "react";

const never = () => () => undefined;

/** False where the server draws, and where the browser takes over what it drew; true right after that, and from the start on what is drawn in the browser alone. */
export const useInBrowser = (): boolean =>
	useSyncExternalStore(
		never,
		() => true,
		() => false,
	);

/** So many rows of a list the server draws: they fill a screen, and a row costs it as much as all around the list. The browser draws the others. */
export const ROWS_AT_FIRST = 12;
