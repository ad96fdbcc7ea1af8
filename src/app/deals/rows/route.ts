export { dealRowsAnswer as GET } from "@/app/server/answers";
