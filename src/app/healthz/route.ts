export { healthAnswer as GET } from "@/app/server/answers";

export const dynamic = "force-dynamic";
