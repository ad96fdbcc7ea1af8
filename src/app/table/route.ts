export { tableAnswer as POST } from "@/app/server/answers";
