export { openApiAnswer as GET } from "@/app/server/answers";
