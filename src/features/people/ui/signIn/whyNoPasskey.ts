/** Why a device gave no answer, in words, and what that left. */
export function whyNoPasskey(thrown: unknown, left: string): string {
	const { name, code } = thrown as { name?: string; code?: string };
	if (code === "ERROR_AUTHENTICATOR_PREVIOUSLY_REGISTERED" || name === "InvalidStateError") return `This device keeps a passkey of yours already. ${left}.`;
	if (name === "NotAllowedError" || name === "AbortError") return `Your device didn’t answer, or you stopped it. ${left}; try again.`;
	if (name === "SecurityError") return `This page’s address isn’t one for passkeys. ${left}.`;
	return `The server or your device couldn’t be reached. ${left}; try again.`;
}
