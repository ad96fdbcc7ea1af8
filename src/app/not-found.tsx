import { FaultView } from "@/ui/frame/FaultView";

export default function NotFound() {
	return (
		<main>
			<FaultView title="Nothing found at this address" detail="The address may be mistyped, or the page was deleted." />
		</main>
	);
}
