export { riverAnswer as GET } from "@/app/server/answers";
