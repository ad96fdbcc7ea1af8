"use client";
import { useEffect, useRef, useState } from "react";

/** The width of an element as it is laid out, in pixels. */
export function useWidth() {
	const box = useRef<HTMLElement>(null);
	const [width, setWidth] = useState(0);
	useEffect(() => {
		if (!box.current) return;
		const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry?.contentRect.width ?? 0)));
		observer.observe(box.current);
		return () => observer.disconnect();
	}, []);
	return [box, width] as const;
}
