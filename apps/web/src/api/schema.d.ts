// Made by `npm run api-types` from the server; not written by hand.
export interface paths {
    "/api/projects": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All projects, archived and deleted ones too, the last changed first */
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
        /** Archive a project, put it into the bin, or restore it */
        patch: operations["ProjectsController_state"];
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
    "/api/projects/{id}/copy": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Copy a project as it is now, without its history and builds */
        post: operations["ProjectsController_copy"];
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
        /** Undo one’s own last edit */
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
        /** Redo the edit that one undid last */
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
        /** Undo an older edit, when nothing later touches what it touched */
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
    "/api/projects/{id}/gate": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Whether the project passes its gate, with the counts of its findings */
        get: operations["AuditsController_gate"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/builds": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All builds of a project, the oldest first */
        get: operations["BuildsController_list"];
        put?: never;
        /** Freeze the project as it is stored, with its audit and gate */
        post: operations["BuildsController_freeze"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/builds/import": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Put a document in as a build */
        post: operations["BuildsController_import"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/builds/{build}/document": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The document of a build */
        get: operations["BuildsController_document"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/builds/{build}/audit": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The audit of a build at the time when it was frozen */
        get: operations["BuildsController_audit"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/builds/{build}/verdicts": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let a build through, or hold it back */
        post: operations["BuildsController_say"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/builds/{build}/restore": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Restore the project to a build, as one edit that can be undone */
        post: operations["BuildsController_restore"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/replace": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Make the project like a document; an edit that can be undone */
        post: operations["ExchangeController_replace"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/declarations": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Update declarations and placements from a manifest of the game, as one edit that can be undone */
        put: operations["ExchangeController_declare"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/live": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Events of several projects, as server-sent events: version, presence, builds, plays; gone for one that does not exist */
        get: operations["CollaborationController_stream"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/live/{stream}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Say for which windows a stream speaks, and where they are */
        post: operations["CollaborationController_windows"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/pictures": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Store a picture that can lie under a plan: PNG, JPEG, WebP or SVG */
        post: operations["PicturesController_store"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/pictures/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A picture */
        get: operations["PicturesController_read"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/plays": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What running games have sent, the newest first */
        get: operations["PlaysController_list"];
        put?: never;
        /** Send what a running game has written; it is judged while it comes in */
        post: operations["PlaysController_take"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/plays/live": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What is sent now, as server-sent events: lines */
        get: operations["PlaysController_live"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/plays/token": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Whether there is a token, and since when */
        get: operations["PlaysController_tokenState"];
        put?: never;
        /** A new token to send plays with; the one before holds no longer */
        post: operations["PlaysController_newToken"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/plays/together": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What all plays show together that are judged by the same wiring as the newest */
        get: operations["PlaysController_together"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/plays/{play}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What a play shows */
        get: operations["PlaysController_report"];
        put?: never;
        post?: never;
        /** Remove a play */
        delete: operations["PlaysController_remove"];
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
    "/api/health/live": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Whether the server itself answers; one that does not is started again */
        get: operations["HealthController_live"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/health/ready": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Whether requests may be sent here: its database answers, and it is not being stopped */
        get: operations["HealthController_ready"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/session": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who has signed in here, and their role in a project */
        get: operations["SessionController_session"];
        put?: never;
        /** Sign in; the answer sets the cookie of the session */
        post: operations["SessionController_signIn"];
        /** Sign out: the session ends, and its windows with it */
        delete: operations["SessionController_signOut"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/join/offer": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What an invitation offers */
        post: operations["SessionController_offer"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/join": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Accept an invitation: makes the account, or sets its password, and signs in */
        post: operations["SessionController_join"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/account/password": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Change one’s password; all other sessions end */
        post: operations["SessionController_password"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/account/sessions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Where one has signed in */
        get: operations["SessionController_list"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/account/sessions/{session}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** Sign out somewhere else */
        delete: operations["SessionController_end"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/people": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Everybody who has an account, or had one */
        get: operations["PeopleController_all"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/people/names": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Everybody’s names */
        get: operations["PeopleController_names"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/people/{person}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        /** Make somebody an administrator or not; end an account, or bring it back */
        patch: operations["PeopleController_change"];
        trace?: never;
    };
    "/api/people/{person}/password": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** An invitation by which somebody sets a new password */
        post: operations["PeopleController_renew"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/invitations": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Invitations that are open */
        get: operations["PeopleController_invitations"];
        put?: never;
        /** Invite somebody to the server */
        post: operations["PeopleController_invite"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/invitations/{invitation}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** Withdraw an invitation */
        delete: operations["PeopleController_withdraw"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/security-log": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The security log, the newest first */
        get: operations["PeopleController_entries"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/security-log/lines": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The security log as JSON Lines, the newest first; as many as one answer holds */
        get: operations["PeopleController_lines"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/members": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who has which role */
        get: operations["MembersController_list"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/members/{person}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Give somebody a role */
        put: operations["MembersController_give"];
        post?: never;
        /** Take somebody’s role away: their windows of the project close */
        delete: operations["MembersController_take"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/invitations": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Invitations to the project that are open */
        get: operations["MembersController_invitations"];
        put?: never;
        /** Invite somebody who has no account yet */
        post: operations["MembersController_invite"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/invitations/{invitation}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** Withdraw an invitation to the project */
        delete: operations["MembersController_withdraw"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/tokens": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The tokens of the project, without their secrets */
        get: operations["MembersController_tokensOf"];
        put?: never;
        /** A new token for a build server or a game; it is shown once */
        post: operations["MembersController_makeToken"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/projects/{id}/tokens/{token}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** Revoke a token */
        delete: operations["MembersController_revoke"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/sso": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Go to the provider of single sign-on */
        get: operations["SingleSignOnController_begin"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/sso/back": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Come back from the provider of single sign-on; sets the cookie of the session */
        get: operations["SingleSignOnController_back"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/retention": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What each project has of history and builds, and what of it is older */
        get: operations["RetentionController_amounts"];
        put?: never;
        /** Remove history and builds that are older, for good */
        post: operations["RetentionController_thin"];
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
        LastChangeDto: {
            who: string;
            /** @description The edit, as a sentence. */
            label: string;
        };
        GateDto: {
            /** @description The version that was audited. */
            version: number;
            /** @description The ISO date on which waivers were judged. */
            today: string;
            /** @enum {string} */
            gate: "pass" | "stop";
            error: number;
            warning: number;
            info: number;
            waived: number;
            /** @description Bindings of the document. */
            bindings: number;
        };
        ProjectDto: {
            /** Format: uuid */
            id: string;
            name: string;
            /** @description Counts the edits; an edit is made against a version. */
            version: number;
            /** @enum {string} */
            state: "open" | "archived" | "deleted";
            /** Format: date-time */
            createdAt: string;
            /** Format: date-time */
            updatedAt: string;
            /** @description The last edit; absent where there was none. */
            last?: components["schemas"]["LastChangeDto"];
            /** @description Who has it open now. */
            here: string[];
            /** @description The newest audit; of an earlier version where it was edited since. Null where there was none. */
            gate: components["schemas"]["GateDto"] | null;
            /**
             * Format: date-time
             * @description When a deleted project is gone for good.
             */
            goneAt: string | null;
        };
        ImportedDto: {
            /** Format: uuid */
            id: string;
            version: number;
            /** @description JSON pointers of properties that the format does not know; they are kept. */
            unknown: string[];
            /** @description JSON pointers of properties that stand more than once; the last of each counts. */
            repeated: string[];
        };
        HistoryStepDto: {
            /** @description The version that the edit brought about. */
            version: number;
            label: string;
        };
        OpenedDto: {
            /** @description Own edits, the next one to undo first. */
            undo: components["schemas"]["HistoryStepDto"][];
            /** @description Own edits, the next one to redo first. */
            redo: components["schemas"]["HistoryStepDto"][];
            /** Format: uuid */
            id: string;
            version: number;
            document: components["schemas"]["Project"];
        };
        StateDto: {
            /**
             * @description A deleted project can be restored until it is removed for good.
             * @enum {string}
             */
            state: "open" | "archived" | "deleted";
        };
        CopyDto: {
            name: string;
            /**
             * Format: uuid
             * @description Sent twice with the same key it is made once.
             */
            key: string;
        };
        CopiedDto: {
            /** Format: uuid */
            id: string;
        };
        EditDto: {
            /** @description The version that its author saw. */
            base: number;
            /** @description Who makes it. */
            who: string;
            /**
             * Format: uuid
             * @description A request with a key that is known is not done twice.
             */
            key?: string;
            /**
             * Format: uuid
             * @description Names the browser that it comes from: undo and redo take its own edits.
             */
            author?: string;
            /** @description Keys of edits after the base that its author had seen too, being their own. */
            seen?: string[];
            /** @description The version that the client has: edits after it are answered. Default: the base. */
            have?: number;
            /** @description A sentence for the history. */
            label: string;
            changes: components["schemas"]["Change"][];
        };
        LoggedEditDto: {
            version: number;
            /** @enum {string} */
            kind: "edit" | "undo" | "redo";
            label: string;
            who: string;
            /** Format: uuid */
            author: string | null;
            /** Format: date-time */
            at: string;
            /** @description An edit that has not been undone meanwhile. */
            inForce: boolean;
            changes: components["schemas"]["Change"][];
            /** Format: uuid */
            key: string | null;
        };
        EditsDto: {
            /** @description Own edits, the next one to undo first. */
            undo: components["schemas"]["HistoryStepDto"][];
            /** @description Own edits, the next one to redo first. */
            redo: components["schemas"]["HistoryStepDto"][];
            /** @description The stored version of the project. */
            version: number;
            /** @description Edits after the version that was asked for. */
            edits: components["schemas"]["LoggedEditDto"][];
            /** @description False where there are more; whoever needs them all opens the project. */
            complete: boolean;
        };
        StepDto: {
            /** @description The version that its author saw. */
            base: number;
            /** @description Who makes it. */
            who: string;
            /**
             * Format: uuid
             * @description A request with a key that is known is not done twice.
             */
            key?: string;
            /**
             * Format: uuid
             * @description Names the browser that it comes from: undo and redo take its own edits.
             */
            author?: string;
            /** @description Keys of edits after the base that its author had seen too, being their own. */
            seen?: string[];
            /** @description The version that the client has: edits after it are answered. Default: the base. */
            have?: number;
            /** @description The edit that is meant, by the version that it brought about. Default: whichever comes next. */
            version?: number;
        };
        TakeBackDto: {
            /** @description The version that its author saw. */
            base: number;
            /** @description Who makes it. */
            who: string;
            /**
             * Format: uuid
             * @description A request with a key that is known is not done twice.
             */
            key?: string;
            /**
             * Format: uuid
             * @description Names the browser that it comes from: undo and redo take its own edits.
             */
            author?: string;
            /** @description Keys of edits after the base that its author had seen too, being their own. */
            seen?: string[];
            /** @description The version that the client has: edits after it are answered. Default: the base. */
            have?: number;
            /** @description The version that the edit brought about. */
            version: number;
        };
        WaivedDto: {
            rule: string;
            message: string;
            reason: string;
            by: string;
            /** @description ISO date */
            until: string | null;
        };
        BuildVerdictDto: {
            /** @enum {string} */
            verdict: "through" | "back";
            who: string;
            /** Format: date-time */
            at: string;
            reason: string;
        };
        BuildDto: {
            /** Format: uuid */
            id: string;
            name: string;
            note: string;
            /** @description Who froze it. */
            who: string;
            /** Format: date-time */
            at: string;
            /** @description Null for a document put in as a build. */
            version: number | null;
            /** @enum {string} */
            gate: "pass" | "stop";
            /** @description Findings, counted. */
            summary: {
                [key: string]: number;
            };
            /** @description Of the graph. */
            metrics: {
                [key: string]: number;
            };
            waived: components["schemas"]["WaivedDto"][];
            /** @description What people said of it; the last one counts. */
            verdicts: components["schemas"]["BuildVerdictDto"][];
        };
        FreezeDto: {
            /**
             * Format: uuid
             * @description Sent twice with the same key it is done once.
             */
            key?: string;
            /** @description Unique among the builds of a project. */
            name: string;
            note?: string;
            who: string;
            /** @description The version that is to be frozen; it must be the stored one. */
            base: number;
        };
        SayDto: {
            /**
             * Format: uuid
             * @description Sent twice with the same key it is done once.
             */
            key?: string;
            /**
             * @description Lets the build through, or holds it back.
             * @enum {string}
             */
            verdict: "through" | "back";
            /** @description Needed where it goes against the gate. */
            reason?: string;
            who: string;
        };
        VersionEventDto: {
            /** Format: uuid */
            project: string;
            version: number;
        };
        PresentDto: {
            /**
             * Format: uuid
             * @description Names the window.
             */
            client: string;
            who: string;
            /** @description What it looks at: the address from the project on. */
            place: string;
        };
        PresenceEventDto: {
            /** Format: uuid */
            project: string;
            all?: components["schemas"]["PresentDto"][];
            came?: components["schemas"]["PresentDto"][];
            /** @description Windows. */
            left?: string[];
        };
        WindowDto: {
            /**
             * Format: uuid
             * @description Names the window.
             */
            client: string;
            who: string;
            /** @description What it looks at: the address from the project on. */
            place: string;
            /** Format: uuid */
            project: string;
        };
        WindowsDto: {
            windows: components["schemas"]["WindowDto"][];
        };
        PictureDto: {
            /**
             * @description Its name: a hash of its bytes, and its kind
             * @example 0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a.png
             */
            name: string;
        };
        PlayFiguresDto: {
            sessions: number;
            records: number;
            /** @description Of all sessions together. */
            seconds: number;
            /** @description Lines that could not be read. */
            broken: number;
            /** @description Expanded bindings that have served. */
            served: number;
            /** @description Expanded bindings in all. */
            of: number;
            /** @description What did not follow, came twice, or in another order. */
            wrong: number;
            /** @description What other code does, and names that the project does not know. */
            elsewhere: number;
        };
        PlayDto: {
            /** Format: uuid */
            id: string;
            /** Format: date-time */
            at: string;
            name: string;
            figures: components["schemas"]["PlayFiguresDto"];
        };
        TokenStateDto: {
            /**
             * Format: date-time
             * @description When the token was made, if there is one.
             */
            at?: string;
        };
        TokenDto: {
            /** @description Sent as `Authorization: Bearer`; it is shown once. */
            token: string;
        };
        HealthDto: {
            /** @enum {string} */
            status: "ok";
        };
        OwnAccountDto: {
            /** Format: uuid */
            id: string;
            name: string;
            isAdministrator: boolean;
        };
        SessionDto: {
            /** @description Whether people sign in on this server. */
            team: boolean;
            /** @description Who has signed in. */
            account: components["schemas"]["OwnAccountDto"] | null;
            /** @description What single sign-on is called; null where there is none. */
            sso: string | null;
            /**
             * @description In the project that was asked for.
             * @enum {string|null}
             */
            role: "reader" | "designer" | "lead" | null;
        };
        SignInDto: {
            login: string;
            password: string;
        };
        SecretDto: {
            /** @description What stands after # in the link of an invitation. */
            secret: string;
        };
        OfferDto: {
            isAdministrator: boolean;
            projectName: string | null;
            /** @enum {string|null} */
            role: "reader" | "designer" | "lead" | null;
            /** @description Whose password it sets anew. */
            personName: string | null;
            madeBy: string;
        };
        JoinDto: {
            /** @description What stands after # in the link of an invitation. */
            secret: string;
            /** @description The sign-in name: letters, digits, and . _ - @ + */
            login: string;
            /** @description Stands in history, waivers and builds. */
            name: string;
            password: string;
        };
        PasswordDto: {
            /** @description The one until now. */
            old: string;
            password: string;
        };
        OwnSessionDto: {
            /** Format: uuid */
            id: string;
            /** @description The browser, as it calls itself. */
            agent: string;
            /** Format: date-time */
            begun: string;
            /** Format: date-time */
            seen: string;
            /** @description The one that asks. */
            isThis: boolean;
        };
        PersonDto: {
            /** Format: uuid */
            id: string;
            name: string;
            /** @description The sign-in name. */
            login: string;
            isAdministrator: boolean;
            /**
             * Format: date-time
             * @description When the account was ended.
             */
            endedAt: string | null;
            /** Format: date-time */
            seenAt: string | null;
        };
        PersonNameDto: {
            /** Format: uuid */
            id: string;
            name: string;
        };
        PersonChangeDto: {
            isAdministrator?: boolean;
            /** @description Ends the account, or brings it back. */
            isEnded?: boolean;
        };
        InvitedDto: {
            /** Format: uuid */
            id: string;
            /** @description Stands after # in the link; it is shown once. */
            secret: string;
        };
        InvitationDto: {
            /** Format: uuid */
            id: string;
            note: string;
            madeBy: string;
            /** Format: date-time */
            until: string;
            isAdministrator: boolean;
            /** @enum {string|null} */
            role: "reader" | "designer" | "lead" | null;
            projectName: string | null;
            personName: string | null;
        };
        InviteDto: {
            /** @description Whom it is for. */
            note: string;
            isAdministrator?: boolean;
        };
        SecurityEntryDto: {
            id: string;
            /** Format: date-time */
            at: string;
            what: string;
            who: string;
            /** @description The address that the request came from. */
            from: string;
            /** @description The name of the project. */
            project: string | null;
            detail: string;
        };
        MemberDto: {
            /** @enum {string} */
            role: "reader" | "designer" | "lead";
            /** Format: uuid */
            account: string;
            name: string;
        };
        RoleDto: {
            /** @enum {string} */
            role: "reader" | "designer" | "lead";
        };
        InviteMemberDto: {
            /** @description Whom it is for. */
            note: string;
            /** @enum {string} */
            role: "reader" | "designer" | "lead";
        };
        ProjectTokenDto: {
            /** Format: uuid */
            id: string;
            name: string;
            scopes: ("audit" | "declarations" | "plays")[];
            madeBy: string;
            /** Format: date-time */
            madeAt: string;
            /** Format: date-time */
            until: string;
            /** Format: date-time */
            usedAt: string | null;
        };
        NewTokenDto: {
            name: string;
            scopes: ("audit" | "declarations" | "plays")[];
            /** @description Days that it holds. */
            days: number;
        };
        MadeTokenDto: {
            /** Format: uuid */
            id: string;
            /** @description Sent as `Authorization: Bearer`; it is shown once. */
            token: string;
        };
        AmountDto: {
            /** @description How many there are. */
            all: number;
            /** @description How many of them go. */
            going: number;
            /** @description Bytes that those take in the database. */
            bytes: number;
        };
        ProjectAmountsDto: {
            /** Format: uuid */
            id: string;
            name: string;
            history: components["schemas"]["AmountDto"];
            builds: components["schemas"]["AmountDto"];
        };
        AgesDto: {
            /** @description Edits of the history that are older than so many days. */
            history?: number;
            /** @description Builds that are older than so many days. */
            builds?: number;
        };
        Project: {
            [key: string]: unknown;
        };
        Declarations: {
            [key: string]: unknown;
        };
        Change: {
            [key: string]: unknown;
        };
        /** @description One event of the stream, as its two fields: `event` is the name, `data` is JSON. */
        Event: {
            /** @constant */
            event: "version";
            data: components["schemas"]["VersionEventDto"];
        } | {
            /** @constant */
            event: "presence";
            data: components["schemas"]["PresenceEventDto"];
        } | {
            /** @constant */
            event: "builds";
            data: {
                /** Format: uuid */
                project: string;
            };
        } | {
            /** @constant */
            event: "plays";
            data: {
                /** Format: uuid */
                project: string;
            };
        } | {
            /** @constant */
            event: "gone";
            data: {
                /** Format: uuid */
                project: string;
            };
        } | {
            /** @constant */
            event: "still";
            data: Record<string, never>;
        };
        /** @description What went wrong (RFC 9457). `type` is stable; some types carry more, which the page on problems names. */
        Problem: {
            type: "urn:oquel:problem:bad-request" | "urn:oquel:problem:bad-json" | "urn:oquel:problem:bad-text" | "urn:oquel:problem:bad-encoding" | "urn:oquel:problem:no-token" | "urn:oquel:problem:wrong-origin" | "urn:oquel:problem:sign-in" | "urn:oquel:problem:wrong-password" | "urn:oquel:problem:not-vouched" | "urn:oquel:problem:no-provider" | "urn:oquel:problem:too-many-tries" | "urn:oquel:problem:not-allowed" | "urn:oquel:problem:no-team" | "urn:oquel:problem:teams-own" | "urn:oquel:problem:no-invitation" | "urn:oquel:problem:name-taken" | "urn:oquel:problem:last-administrator" | "urn:oquel:problem:too-many" | "urn:oquel:problem:not-found" | "urn:oquel:problem:no-project" | "urn:oquel:problem:no-build" | "urn:oquel:problem:no-stream" | "urn:oquel:problem:no-play" | "urn:oquel:problem:no-picture" | "urn:oquel:problem:stale-edit" | "urn:oquel:problem:depended-on" | "urn:oquel:problem:not-in-force" | "urn:oquel:problem:nothing-to-undo" | "urn:oquel:problem:nothing-to-redo" | "urn:oquel:problem:not-next" | "urn:oquel:problem:changed-meanwhile" | "urn:oquel:problem:unknown-version" | "urn:oquel:problem:no-difference" | "urn:oquel:problem:build-name-taken" | "urn:oquel:problem:other-origin" | "urn:oquel:problem:too-many-pictures" | "urn:oquel:problem:edit-no-asset" | "urn:oquel:problem:edit-no-item" | "urn:oquel:problem:edit-id-taken" | "urn:oquel:problem:edit-broken-item" | "urn:oquel:problem:project-deleted" | "urn:oquel:problem:too-large" | "urn:oquel:problem:wrong-host" | "urn:oquel:problem:broken-document" | "urn:oquel:problem:project-too-large" | "urn:oquel:problem:reason-needed" | "urn:oquel:problem:too-many-requests" | "urn:oquel:problem:internal" | "urn:oquel:problem:stopping" | "urn:oquel:problem:busy" | "urn:oquel:problem:too-slow" | "urn:oquel:problem:disk-full" | "urn:oquel:problem:database-down";
            title: string;
            status: number;
            /** @description What, where, and what to do. */
            detail: string;
            /** @description Names the request in the server’s log. */
            request: string;
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
            query?: {
                /** @description Sent twice with the same key it is stored once. */
                key?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** @description The document, oquel.project/1 */
        requestBody: {
            content: {
                "application/json": components["schemas"]["Project"];
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
            query?: {
                /** @description The author whose undo and redo are returned. */
                author?: string;
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
                    "application/json": components["schemas"]["OpenedDto"];
                };
            };
        };
    };
    ProjectsController_state: {
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
                "application/json": components["schemas"]["StateDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
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
                    "application/json": components["schemas"]["Project"];
                };
            };
        };
    };
    ProjectsController_copy: {
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
                "application/json": components["schemas"]["CopyDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CopiedDto"];
                };
            };
        };
    };
    EditsController_since: {
        parameters: {
            query: {
                after: number;
                /** @description The author whose undo and redo are returned. */
                author?: string;
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
                    "application/json": components["schemas"]["EditsDto"];
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
                    "application/json": components["schemas"]["EditsDto"];
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
                    "application/json": components["schemas"]["EditsDto"];
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
                    "application/json": components["schemas"]["EditsDto"];
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
                    "application/json": components["schemas"]["EditsDto"];
                };
            };
        };
    };
    AuditsController_audit: {
        parameters: {
            query?: {
                /** @description ISO date on which waivers are judged */
                today?: unknown;
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
    AuditsController_gate: {
        parameters: {
            query?: {
                /** @description ISO date on which waivers are judged */
                today?: unknown;
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
                    "application/json": components["schemas"]["GateDto"];
                };
            };
        };
    };
    BuildsController_list: {
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
                    "application/json": components["schemas"]["BuildDto"][];
                };
            };
        };
    };
    BuildsController_freeze: {
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
                "application/json": components["schemas"]["FreezeDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BuildDto"];
                };
            };
        };
    };
    BuildsController_import: {
        parameters: {
            query: {
                /** @description Sent twice with the same key it is done once. */
                key?: string;
                /** @description Unique among the builds of a project. */
                name: string;
                note?: string;
                who: string;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        /** @description The document, oquel.project/1 */
        requestBody: {
            content: {
                "application/json": components["schemas"]["Project"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BuildDto"];
                };
            };
        };
    };
    BuildsController_document: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                build: string;
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
                    "application/json": components["schemas"]["Project"];
                };
            };
        };
    };
    BuildsController_audit: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                build: string;
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
    BuildsController_say: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                build: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SayDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BuildDto"];
                };
            };
        };
    };
    BuildsController_restore: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                build: string;
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
                    "application/json": components["schemas"]["EditsDto"];
                };
            };
        };
    };
    ExchangeController_replace: {
        parameters: {
            query: {
                /** @description Who makes it. */
                who: string;
                /** @description A request with a key that is known is not done twice. */
                key?: string;
                /** @description Names the browser that it comes from: undo and redo take its own edits. */
                author?: string;
                /** @description A sentence for the history. */
                label: string;
                /** @description The version that the document was compared with. */
                base: number;
                /** @description The version that the client has. */
                have?: number;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        /** @description The document, oquel.project/1 */
        requestBody: {
            content: {
                "application/json": components["schemas"]["Project"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EditsDto"];
                };
            };
        };
    };
    ExchangeController_declare: {
        parameters: {
            query: {
                /** @description Who makes it. */
                who: string;
                /** @description A request with a key that is known is not done twice. */
                key?: string;
                /** @description Names the browser that it comes from: undo and redo take its own edits. */
                author?: string;
                /** @description A sentence for the history. */
                label: string;
                /** @description The version that the document was compared with. */
                base: number;
                /** @description The version that the client has. */
                have?: number;
                /** @description By which it is known again what came from here. */
                origin?: string;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        /** @description The manifest, oquel.declarations/1 */
        requestBody: {
            content: {
                "application/json": components["schemas"]["Declarations"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EditsDto"];
                };
            };
        };
    };
    CollaborationController_stream: {
        parameters: {
            query: {
                /** @description Names the connection; another one each time. */
                stream: string;
                /** @description Ids of the projects that are followed, with commas between. */
                projects: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Server-sent events, until either side ends them */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/event-stream": components["schemas"]["Event"];
                };
            };
        };
    };
    CollaborationController_windows: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                stream: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["WindowsDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    PicturesController_store: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        /** @description The bytes of the picture */
        requestBody: {
            content: {
                "application/json": string;
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PictureDto"];
                };
            };
        };
    };
    PicturesController_read: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                name: string;
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
                    "application/json": string;
                };
            };
        };
    };
    PlaysController_list: {
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
                    "application/json": components["schemas"]["PlayDto"][];
                };
            };
        };
    };
    PlaysController_take: {
        parameters: {
            query?: {
                /** @description Session of lines that do not name theirs. */
                session?: string;
                /** @description The scenes that the game had loaded; all without it. */
                loadSet?: string;
                /** @description Seconds by which the game may be early or late. */
                tolerance?: number;
                /** @description Hash of the wiring that the game ran. */
                wiring?: string;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        /** @description JSON Lines: records, or CloudEvents 1.0 whose data is one */
        requestBody: {
            content: {
                "application/json": string;
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlayDto"];
                };
            };
        };
    };
    PlaysController_live: {
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
            /** @description text/event-stream */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    PlaysController_tokenState: {
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
                    "application/json": components["schemas"]["TokenStateDto"];
                };
            };
        };
    };
    PlaysController_newToken: {
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
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TokenDto"];
                };
            };
        };
    };
    PlaysController_together: {
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
            /** @description How many plays, and oquel.plays/1 */
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
    PlaysController_report: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                play: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description oquel.plays/1 */
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
    PlaysController_remove: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                play: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
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
    HealthController_live: {
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
    HealthController_ready: {
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
    SessionController_session: {
        parameters: {
            query?: {
                /** @description Whose role is asked for. */
                project?: string;
            };
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
                    "application/json": components["schemas"]["SessionDto"];
                };
            };
        };
    };
    SessionController_signIn: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SignInDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OwnAccountDto"];
                };
            };
        };
    };
    SessionController_signOut: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    SessionController_offer: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SecretDto"];
            };
        };
        responses: {
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OfferDto"];
                };
            };
        };
    };
    SessionController_join: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["JoinDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OwnAccountDto"];
                };
            };
        };
    };
    SessionController_password: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PasswordDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    SessionController_list: {
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
                    "application/json": components["schemas"]["OwnSessionDto"][];
                };
            };
        };
    };
    SessionController_end: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                session: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    PeopleController_all: {
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
                    "application/json": components["schemas"]["PersonDto"][];
                };
            };
        };
    };
    PeopleController_names: {
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
                    "application/json": components["schemas"]["PersonNameDto"][];
                };
            };
        };
    };
    PeopleController_change: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                person: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PersonChangeDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    PeopleController_renew: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                person: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["InvitedDto"];
                };
            };
        };
    };
    PeopleController_invitations: {
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
                    "application/json": components["schemas"]["InvitationDto"][];
                };
            };
        };
    };
    PeopleController_invite: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["InviteDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["InvitedDto"];
                };
            };
        };
    };
    PeopleController_withdraw: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                invitation: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    PeopleController_entries: {
        parameters: {
            query?: {
                /** @description The id of an entry: those before it. */
                before?: string;
            };
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
                    "application/json": components["schemas"]["SecurityEntryDto"][];
                };
            };
        };
    };
    PeopleController_lines: {
        parameters: {
            query?: {
                /** @description The id of an entry: those before it. */
                before?: string;
            };
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
                    "application/json": string;
                };
            };
        };
    };
    MembersController_list: {
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
                    "application/json": components["schemas"]["MemberDto"][];
                };
            };
        };
    };
    MembersController_give: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                person: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["RoleDto"];
            };
        };
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    MembersController_take: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                person: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    MembersController_invitations: {
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
                    "application/json": components["schemas"]["InvitationDto"][];
                };
            };
        };
    };
    MembersController_invite: {
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
                "application/json": components["schemas"]["InviteMemberDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["InvitedDto"];
                };
            };
        };
    };
    MembersController_withdraw: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                invitation: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    MembersController_tokensOf: {
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
                    "application/json": components["schemas"]["ProjectTokenDto"][];
                };
            };
        };
    };
    MembersController_makeToken: {
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
                "application/json": components["schemas"]["NewTokenDto"];
            };
        };
        responses: {
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MadeTokenDto"];
                };
            };
        };
    };
    MembersController_revoke: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                token: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    SingleSignOnController_begin: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description To the provider */
            302: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    SingleSignOnController_back: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description To the list of projects, or to a page that says what failed */
            302: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
        };
    };
    RetentionController_amounts: {
        parameters: {
            query?: {
                /** @description Edits of the history that are older than so many days. */
                history?: number;
                /** @description Builds that are older than so many days. */
                builds?: number;
            };
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
                    "application/json": components["schemas"]["ProjectAmountsDto"][];
                };
            };
        };
    };
    RetentionController_thin: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AgesDto"];
            };
        };
        responses: {
            /** @description What has gone, of each project that had something. */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ProjectAmountsDto"][];
                };
            };
        };
    };
}
