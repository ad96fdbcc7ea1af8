"use client";
import { type DragEvent, type ReactNode, useRef, useState } from "react";
import { Button, ProgressBar } from "react-bootstrap";
import { fileKind, fileSize } from "@/core/words/fileWords";
import { nearDate } from "@/ui/format";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { Place } from "../server/place";
import type { AttachmentView } from "../server/readAttachments";
import { LinkForm } from "./LinkForm";
import { useUpload } from "./useUpload";
import "./attachments.css";

interface Props {
	readonly place: Place;
	readonly list: readonly AttachmentView[];
	readonly seen: string;
	readonly past: boolean;
	readonly mayWrite: boolean;
	/** what stands beside one: the deal it belongs to */
	readonly beside?: (one: AttachmentView) => ReactNode;
}

/** Files and links of a place: opened, added by button or by dropping them, renamed, taken away. */
export function Attachments({ place, list, seen, past, mayWrite, beside }: Props) {
	const { uploads, upload } = useUpload(place);
	const [over, setOver] = useState(false);
	const dropped = (event: DragEvent) => {
		if (!mayWrite || !event.dataTransfer.files.length) return;
		event.preventDefault();
		setOver(false);
		void upload([...event.dataTransfer.files]);
	};
	return (
		<div
			className={over ? "attachments over" : "attachments"}
			onDragOver={(event) => {
				if (!mayWrite || !event.dataTransfer.types.includes("Files")) return;
				event.preventDefault();
				setOver(true);
			}}
			onDragLeave={() => setOver(false)}
			onDrop={dropped}
		>
			<ul className="attachment-list">
				{list.map((one) => (
					<Line key={one.id} one={one} seen={seen} past={past} mayWrite={mayWrite} beside={beside?.(one)} />
				))}
				{uploads.map(({ key, name, done, cancel }) => (
					<li key={key}>
						<span className="second">{name}</span>
						<ProgressBar now={done * 100} label={`${Math.round(done * 100)}%`} visuallyHidden aria-label={`Adding ${name}`} className="attachment-progress" />
						<button type="button" className="plain-button tiny" aria-label={`Cancel adding ${name}`} onClick={cancel}>
							Cancel
						</button>
					</li>
				))}
				{!list.length && !uploads.length && <li className="second">{mayWrite ? "None yet. Drop a file here, or add one." : "None."}</li>}
			</ul>
			{mayWrite && <Adding place={place} upload={upload} />}
		</div>
	);
}

function Adding({ place, upload }: { place: Place; upload: (files: readonly File[]) => Promise<void> }) {
	const [link, setLink] = useState(false);
	const chooser = useRef<HTMLInputElement>(null);
	if (link) return <LinkForm place={place} close={() => setLink(false)} />;
	return (
		<div className="d-flex gap-3 no-print">
			<Button size="sm" variant="link" className="p-0" onClick={() => chooser.current?.click()}>
				Add files
			</Button>
			<Button size="sm" variant="link" className="p-0" onClick={() => setLink(true)}>
				Add a link
			</Button>
			<input
				ref={chooser}
				type="file"
				multiple
				hidden
				aria-label="Files"
				onChange={({ target }) => {
					void upload([...(target.files ?? [])]);
					target.value = "";
				}}
			/>
		</div>
	);
}

interface LineProps extends Pick<Props, "seen" | "past" | "mayWrite"> {
	readonly one: AttachmentView;
	readonly beside: ReactNode;
}

function Line({ one, seen, past, mayWrite, beside }: LineProps) {
	const run = useRun();
	const act = useAct();
	const [name, setName] = useState<string | null>(null);
	const { id } = one;
	const remove = () =>
		void act(run("attachments.remove", { id }), one.url ? "Link removed." : "File removed.", () => run("attachments.remove", { id, removed: false }));
	const rename = async () => {
		if (name?.trim() && name !== one.name)
			await act(run("attachments.rename", { id, name }), "Renamed.", ({ before }) => run("attachments.rename", { id, name: before }));
		setName(null);
	};
	const about = [one.url ? "link" : `${fileKind(one.type)}, ${fileSize(one.size ?? 0)}`, one.by, nearDate(one.on, seen)].filter(Boolean).join(" · ");
	return (
		<li>
			{name === null ? (
				<Open one={one} seen={seen} past={past} />
			) : (
				<input
					className="form-control form-control-sm"
					aria-label={`Name of ${one.name}`}
					value={name}
					maxLength={200}
					autoFocus
					onChange={({ target }) => setName(target.value)}
					onBlur={() => void rename()}
					onKeyDown={(event) => {
						if (event.key === "Enter") void rename();
						if (event.key === "Escape") {
							event.stopPropagation();
							setName(null);
						}
					}}
				/>
			)}
			{mayWrite && name === null && (
				<span className="no-print attachment-tools">
					<button type="button" className="plain-button tiny second" aria-label={`Rename ${one.name}`} onClick={() => setName(one.name)}>
						Rename
					</button>
					<button type="button" className="plain-button tiny second" aria-label={`Remove ${one.name}`} onClick={remove}>
						Remove
					</button>
				</span>
			)}
			<span className="tiny second attachment-about">
				{about}
				{beside && <> · {beside}</>}
			</span>
		</li>
	);
}

/** Where it is read: a file is saved, a link opens beside. */
export function Open({ one, seen, past }: { one: Pick<AttachmentView, "id" | "name" | "url">; seen: string; past: boolean }) {
	if (one.url)
		return (
			<a href={one.url} target="_blank" rel="noreferrer noopener">
				{one.name}
			</a>
		);
	return (
		<a href={`/api/v1/files/${encodeURIComponent(one.id)}${past ? `?as_of=${seen}` : ""}`} download={one.name}>
			{one.name}
		</a>
	);
}
