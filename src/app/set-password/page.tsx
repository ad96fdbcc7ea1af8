import { SetPasswordForm } from "@/features/people/ui/signIn/SetPasswordForm";
import { setPasswordAction } from "../actions/begin";

export const metadata = { title: "Set your password" };

export default function SetPasswordPage() {
	return <SetPasswordForm action={setPasswordAction} />;
}
