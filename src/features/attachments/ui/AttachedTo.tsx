import type { AttachmentView } from "../server/readAttachments";
import { Open } from "./Attachments";

/** The files and links that came with an activity, in a line beneath it. */
export function AttachedTo({ activity, files, seen, past }: { activity: string | null; files: readonly AttachmentView[]; seen: string; past: boolean }) {
	const own = activity === null ? [] : files.filter(({ activityId }) => activityId === activity);
	if (!own.length) return null;
	return (
		<span className="d-block tiny">
			{own.map((one, i) => (
				<span key={one.id}>
					{i > 0 && ", "}
					<Open one={one} seen={seen} past={past} />
				</span>
			))}
		</span>
	);
}
