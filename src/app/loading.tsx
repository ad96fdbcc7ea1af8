export default function Loading() {
	return (
		<div className="empty" role="status">
			Reading the deals …
		</div>
	);
}
