import { FaultView } from "@/ui/frame/FaultView";

export default function NotFound() {
	return (
		<main>
			<FaultView title="There is nothing at this address" detail="It may have been mistyped, or what was here has gone." />
		</main>
	);
}
