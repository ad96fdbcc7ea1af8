"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { Place } from "../server/place";

/** Adds a link: where it leads, and what it is called. */
export function LinkForm({ place, close }: { place: Place; close: () => void }) {
	const [url, setUrl] = useState("");
	const [name, setName] = useState("");
	const run = useRun();
	const act = useAct();
	const wrong = url.trim() !== "" && !/^https?:\/\/\S+\.\S+$/i.test(url.trim());
	const save = async () => {
		if (wrong || !url.trim()) return;
		const done = await act(run("attachments.addLink", { place, name, url: url.trim() }), "Link added.", ({ id }) => run("attachments.remove", { id }));
		if (done) close();
	};
	return (
		<Form
			className="attachment-form no-print"
			onSubmit={(event) => {
				event.preventDefault();
				void save();
			}}
		>
			<Form.Control
				size="sm"
				type="url"
				aria-label="Address"
				placeholder="https://"
				value={url}
				maxLength={2000}
				isInvalid={wrong}
				autoFocus
				onChange={({ target }) => setUrl(target.value)}
			/>
			<Form.Control size="sm" aria-label="Name of the link" placeholder="Name" value={name} maxLength={200} onChange={({ target }) => setName(target.value)} />
			<Button size="sm" type="submit" disabled={!url.trim() || wrong}>
				Add
			</Button>
			<Button size="sm" variant="link" onClick={close}>
				Cancel
			</Button>
			<Form.Control.Feedback type="invalid">A link starts with https://.</Form.Control.Feedback>
		</Form>
	);
}
