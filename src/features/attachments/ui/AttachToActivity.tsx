"use client";
import { useRef, useState } from "react";
import { Button } from "react-bootstrap";
import { listed } from "@/core/words/grammar";
import { useUploadTo } from "./useUpload";

/** Files that are chosen while an activity is written down, and handed in once it has an id. */
export function useAttached() {
	const [files, setFiles] = useState<readonly File[]>([]);
	const chooser = useRef<HTMLInputElement>(null);
	const upload = useUploadTo();
	const send = async (activityId: string) => {
		if (!files.length) return;
		setFiles([]);
		await upload({ activityId }, files);
	};
	const field = (
		<>
			<Button
				size="sm"
				variant="link"
				className="p-0 tiny"
				title={files.length ? listed(files.map(({ name }) => name)) : undefined}
				onClick={() => chooser.current?.click()}
			>
				{files.length === 0 ? "Attach files" : files.length === 1 ? files[0]?.name : `${files.length} files`}
			</Button>
			<input ref={chooser} type="file" multiple hidden aria-label="Files of the activity" onChange={({ target }) => setFiles([...(target.files ?? [])])} />
		</>
	);
	return { field, send };
}
