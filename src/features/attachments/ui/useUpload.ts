"use client";
import { useRef, useState } from "react";
import { fileSize, MOST_FILE } from "@/core/words/fileWords";
import { useNotice } from "@/ui/Notices";
import { useRun } from "@/ui/run";
import { type SentFile, sendFile } from "@/ui/sendFile";
import { useRefresh } from "@/ui/useAct";
import type { Place } from "../server/place";

/** A file on its way to the server. */
export interface Upload {
	readonly key: number;
	readonly name: string;
	/** 0 to 1 */
	readonly done: number;
	readonly cancel: () => void;
}

/** How a call names a place. */
const placeQuery = (place: Place): readonly [name: string, value: string] =>
	"dealId" in place ? ["deal", place.dealId] : "accountId" in place ? ["account", place.accountId] : ["activity", place.activityId];

/** Files that are handed to the server, one after another, with how far each is; what went is undone as one. */
export function useUpload(place: Place) {
	const { uploads, upload } = useUploads();
	return { uploads, upload: (files: readonly File[]) => upload(place, files) };
}

/** The same where the place is known only once it is written down. */
export const useUploadTo = () => useUploads().upload;

function useUploads() {
	const [uploads, setUploads] = useState<readonly Upload[]>([]);
	const next = useRef(0);
	const notice = useNotice();
	const refresh = useRefresh();
	const run = useRun();
	const one = async (place: Place, file: File): Promise<SentFile> => {
		if (!file.size) return { fault: "it is empty" };
		if (file.size > MOST_FILE) return { fault: `it has ${fileSize(file.size)}, and a file has at most ${MOST_FILE / 2 ** 20} MB` };
		const key = next.current++;
		const change = (part: Partial<Upload>) => setUploads((list) => list.map((upload) => (upload.key === key ? { ...upload, ...part } : upload)));
		const sent = await sendFile("files", [placeQuery(place), ["name", file.name]], file, {
			told: (done) => change({ done }),
			started: (cancel) => setUploads((list) => [...list, { key, name: file.name, done: 0, cancel }]),
		});
		setUploads((list) => list.filter((upload) => upload.key !== key));
		return sent;
	};
	const upload = async (place: Place, files: readonly File[]) => {
		const added: string[] = [];
		const faults: string[] = [];
		for (const file of files) {
			const sent = await one(place, file);
			if (sent && "id" in sent) added.push(sent.id);
			else if (sent) faults.push(`${file.name}: ${sent.fault}`);
		}
		if (added.length) refresh();
		const undo = async () => {
			for (const id of added) await run("attachments.remove", { id });
			refresh();
		};
		const said = added.length ? (added.length === 1 ? "File added." : `${added.length} files added.`) : "";
		const words = [said, ...faults].filter(Boolean).join(" ");
		if (words) notice({ words, ...(added.length ? { undo } : {}) });
	};
	return { uploads, upload };
}
