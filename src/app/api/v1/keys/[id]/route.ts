import { ENDPOINTS } from "@/features/contract";
import { serve } from "@/platform/http/serve";

export const DELETE = serve(ENDPOINTS.revokeKey);
