import { ENDPOINTS } from "@/app/server/contract";
import { serve } from "@/app/server/serve";

export const GET = serve(ENDPOINTS.listMarks);
export const POST = serve(ENDPOINTS.keepMark);
