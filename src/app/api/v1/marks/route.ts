import { ENDPOINTS } from "@/features/contract";
import { serve } from "@/platform/http/serve";

export const GET = serve(ENDPOINTS.listMarks);
export const POST = serve(ENDPOINTS.keepMark);
