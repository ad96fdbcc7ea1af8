"use client";
import { useRouter } from "next/navigation";
import { useEffect } from "react";

/** so often it is looked whether it is done */
const LOOK = 2000;

/** Reads the screen again and again while something on it is still being computed. */
export function useLookAgain(waiting: boolean) {
	const router = useRouter();
	useEffect(() => {
		if (!waiting) return;
		const timer = setInterval(() => router.refresh(), LOOK);
		return () => clearInterval(timer);
	}, [waiting, router]);
}
