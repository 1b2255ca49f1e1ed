// Made by `npm run api-types` from the server; not written by hand.
export interface paths {
    "/api/projects": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All projects, the last changed first */
        get: operations["ProjectsController_list"];
        put?: never;
        /** Import a document as a new project */
        post: operations["ProjectsController_import"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A project as it is now */
        get: operations["ProjectsController_open"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/document": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Export the document */
        get: operations["ProjectsController_document"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/edits": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Edits after a version, oldest first */
        get: operations["EditsController_since"];
        put?: never;
        /** Apply a change set */
        post: operations["EditsController_edit"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/undo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Take the last edit back */
        post: operations["EditsController_undo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/redo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Bring the last undone edit again */
        post: operations["EditsController_redo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/take-back": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Take an older edit back, when nothing later touches what it touched */
        post: operations["EditsController_takeBack"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/audit": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Audit the project as it is stored now */
        get: operations["AuditsController_audit"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/health": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Whether the server and its database answer */
        get: operations["HealthController_health"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
}
export type webhooks = Record<string, never>;
export interface components {
    schemas: {
        ProjectDto: {
            /** Format: uuid */
            id: string;
            name: string;
            /** @description Counts the edits; an edit is made against a version. */
            version: number;
            /** Format: date-time */
            createdAt: string;
            /** Format: date-time */
            updatedAt: string;
        };
        ImportedDto: {
            /** Format: uuid */
            id: string;
            version: number;
            /** @description JSON pointers of properties that the format does not know; they are kept. */
            unknown: string[];
        };
        OpenedDto: {
            /** Format: uuid */
            id: string;
            version: number;
            /** @description The document, oquel.project/1. */
            document: {
                [key: string]: unknown;
            };
            /** @description What undo would take back; null for nothing. */
            undo: string | null;
            /** @description What redo would bring again; null for nothing. */
            redo: string | null;
        };
        EditDto: {
            /** @description The version that the edit was made against. */
            base: number;
            /** @description A sentence for the history. */
            label: string;
            changes: {
                [key: string]: unknown;
            }[];
            /** @description Who makes it. */
            who: string;
            /**
             * Format: uuid
             * @description A request with a key that is known is not done twice.
             */
            key?: string;
        };
        LoggedEditDto: {
            version: number;
            /** @enum {string} */
            kind: "edit" | "undo" | "redo";
            label: string;
            who: string;
            /** Format: date-time */
            at: string;
            /** @description An edit that has not been undone meanwhile. */
            inForce: boolean;
            changes: {
                [key: string]: unknown;
            }[];
        };
        EditedDto: {
            /** @description The version that the edit brought about. */
            version: number;
            /** @description All edits since the base, this one last. */
            edits: components["schemas"]["LoggedEditDto"][];
            undo: string | null;
            redo: string | null;
        };
        StepDto: {
            /** @description The version that the client has. */
            base: number;
            who: string;
        };
        TakeBackDto: {
            /** @description The version that the client has. */
            base: number;
            who: string;
            /** @description The version that the edit brought about. */
            version: number;
        };
        HealthDto: {
            /** @enum {string} */
            status: "ok";
        };
    };
    responses: never;
    parameters: never;
    requestBodies: never;
    headers: never;
    pathItems: never;
}
export type $defs = Record<string, never>;
export interface operations {
    ProjectsController_list: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ProjectDto"][];
                };
            };
        };
    };
    ProjectsController_import: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** @description The document, oquel.project/1 */
        requestBody: {
            content: {
                "application/json": Record<string, never>;
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ImportedDto"];
                };
            };
        };
    };
    ProjectsController_open: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OpenedDto"];
                };
            };
        };
    };
    ProjectsController_document: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": Record<string, never>;
                };
            };
        };
    };
    EditsController_since: {
        parameters: {
            query: {
                after: number;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LoggedEditDto"][];
                };
            };
        };
    };
    EditsController_edit: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["EditDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EditedDto"];
                };
            };
        };
    };
    EditsController_undo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["StepDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EditedDto"];
                };
            };
        };
    };
    EditsController_redo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["StepDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EditedDto"];
                };
            };
        };
    };
    EditsController_takeBack: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["TakeBackDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EditedDto"];
                };
            };
        };
    };
    AuditsController_audit: {
        parameters: {
            query?: {
                /** @description ISO date on which waivers are judged */
                today?: string;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description oquel.audit/1 */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": Record<string, never>;
                };
            };
        };
    };
    HealthController_health: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HealthDto"];
                };
            };
        };
    };
}
