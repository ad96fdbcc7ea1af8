import { useEffect, useEffectEvent } from "react";

/** A key by the sign it types, wherever the keyboard's layout has it and whatever is held to type it. Not while writing. */
export function useTyped(sign: string, act: (event: KeyboardEvent) => void, enabled = true): void {
	const pressed = useEffectEvent((event: KeyboardEvent) => {
		const writing = (event.target as HTMLElement | null)?.closest("input, textarea, select, [contenteditable]");
		if (enabled && event.key === sign && !writing && !event.ctrlKey && !event.metaKey) act(event);
	});
	useEffect(() => {
		document.addEventListener("keydown", pressed);
		return () => document.removeEventListener("keydown", pressed);
	}, []);
}
