// Made by `npm run contract` from the contract; not to be changed by hand.
export interface paths {
    "/arrivals": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Files that came through the watched folder or by mail, newest first */
        get: operations["listArrivals"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/calendar-files": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Days off or periods from a file: iCalendar, or a table; nothing is kept */
        post: operations["readCalendarFile"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/calendar-years/{year}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Which days of a year a calendar has off, and which periods lie in it; nothing is kept */
        post: operations["showCalendarYear"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/calendars": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Calendars by name, with the reports that go by each */
        get: operations["listCalendars"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/calendars/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A calendar with all it says */
        get: operations["showCalendar"];
        /** Keep a calendar, new or known; reports that go by it get their next times anew */
        put: operations["saveCalendar"];
        post?: never;
        /** Delete a calendar that no report goes by */
        delete: operations["deleteCalendar"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/colleagues": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who may ask and nothing else, without a sign-in */
        get: operations["listColleagues"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/colleagues/{colleague}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Let somebody ask, by an address of their own; it is told once, and an earlier one ends */
        put: operations["saveColleague"];
        post?: never;
        /** Let somebody ask no more, at once */
        delete: operations["deleteColleague"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Datasets by name, each with its newest edition */
        get: operations["listDatasets"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A dataset with its newest edition */
        get: operations["showDataset"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A dataset's editions, newest first */
        get: operations["listEditions"];
        put?: never;
        /** Load a workbook, spreadsheet, text or JSON file as the dataset's next edition; the body is the file */
        post: operations["loadFile"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions/{number}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** An edition with how it was read and what was found */
        get: operations["showEdition"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions/{number}/changes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Cells that stand otherwise than in the file, with what stood there */
        get: operations["listChangedCells"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions/{number}/difference": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What is different from another edition */
        get: operations["compareEditions"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions/{number}/file": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The file an edition came from, byte for byte */
        get: operations["downloadEdition"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions/{number}/groups": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Groups by one or several columns, with counts and everything about them that wants a look */
        get: operations["listGroups"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions/{number}/look": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Rows of an edition, or of a step of a preparation, that a query finds */
        post: operations["lookAtRows"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions/{number}/profile": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Columns in a few numbers over the rows a query finds */
        post: operations["profileColumns"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions/{number}/rows": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Rows of an edition */
        get: operations["listRows"];
        put?: never;
        post?: never;
        /** Delete an edition's rows and its file; its number, digest and counts stay, and so does what went out of it */
        delete: operations["emptyEdition"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/editions/from-upload": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Load an uploaded file as the dataset's next edition */
        post: operations["loadUpload"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/partners/{other}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Columns by which rows of a dataset find rows of another: those that share their values, the best first */
        get: operations["listPartners"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/preview": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Read an uploaded file as it would become the dataset's next edition, and keep nothing */
        post: operations["previewEdition"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/datasets/{name}/settings": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What is set once for a dataset: corrections, key, aliases, mail address */
        get: operations["showDatasetSettings"];
        /** Set what is set once for a dataset; only what is given is changed */
        put: operations["changeDatasetSettings"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/delivery-reports": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Take a report of delivery (RFC 3464) as it came by mail */
        post: operations["takeDeliveryReport"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/drafts/look": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What a definition makes of the data there are, as far as it goes; nothing is kept and nothing is sent */
        post: operations["lookAtDraft"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/drafts/try": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Make a file of a definition for one group, to look at; nothing is kept and nothing is sent */
        post: operations["tryDraft"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/enquiries": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Reports that are asked */
        get: operations["listEnquiries"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/enquiries/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What there is to fill in, with the values to choose from, and the forms an answer can have */
        get: operations["showEnquiry"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/enquiries/{name}/questions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Ask: the rows that match, the first of them at once; what was asked is kept */
        post: operations["ask"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/files/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A made file */
        get: operations["downloadMadeFile"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/fonts": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All font families there are */
        get: operations["listFonts"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/fonts/{file}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Add a font (.ttf, .woff); the body is the file */
        put: operations["addFont"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/found-messages/{id}/decide": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Say of a message of which only the journal knows whether it arrived, or is due again */
        post: operations["decideFoundMessage"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/halts": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** When nothing left by itself, and why; the newest first */
        get: operations["listHalts"];
        put?: never;
        /** Halt all sending: no message begins, no schedule starts, nobody is told, until somebody goes on */
        post: operations["haltSending"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/halts/{id}/messages": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Messages that left and the database did not know of, in the order they left */
        get: operations["listFoundMessages"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/halts/end": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Go on sending: all halts that are open end */
        post: operations["goOnSending"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/health": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Whether the service and its database are well */
        get: operations["showHealth"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/host-keys": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Fingerprint that an SFTP server shows, to be compared with what its keeper says */
        post: operations["hostKeyOf"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/identities": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Sending identities with what waits for them */
        get: operations["listIdentities"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/identities/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A sending identity with what waits for it */
        get: operations["showIdentity"];
        /** Set a sending identity, new or known; secrets that are not given stay */
        put: operations["saveIdentity"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/identities/{name}/pause": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let an identity's messages wait */
        post: operations["pauseIdentity"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/identities/{name}/resume": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let an identity's messages go on, at once */
        post: operations["resumeIdentity"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/invitations/{secret}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Whom an invitation is for, and until when */
        get: operations["showInvitation"];
        put?: never;
        /** Choose a password; the invitation is used up, and one is signed in unless a second factor is asked for */
        post: operations["acceptInvitation"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/letterbox/rules": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What the letterbox does wrong on purpose */
        get: operations["listLetterboxRules"];
        put?: never;
        /** Let the letterbox do something wrong: refuse, be slow, break the line, send messages back */
        post: operations["addLetterboxRule"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/letterbox/rules/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A rule of the letterbox with how often it was used */
        get: operations["showLetterboxRule"];
        put?: never;
        post?: never;
        /** Take a rule of the letterbox away */
        delete: operations["removeLetterboxRule"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/letters": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What the letterbox got, newest first */
        get: operations["listLetters"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/letters/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A letter as HTML and text, with its headers and attachments */
        get: operations["showLetter"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/letters/{id}/attachments/{index}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** An attachment of a letter */
        get: operations["downloadLetterAttachment"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/letters/{id}/raw": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A letter as it came in, as .eml */
        get: operations["downloadLetter"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/library/{kind}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What is archived, by name */
        get: operations["listArchived"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/library/{kind}/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What hangs on a report, a dataset or a template, and what that keeps from being done to it */
        get: operations["showKept"];
        put?: never;
        post?: never;
        /** Delete it; what runs were made with stays for them alone */
        delete: operations["deleteKept"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/library/{kind}/{name}/archive": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Put it away: in no list, started by nothing, and there as it was when it is brought back */
        post: operations["archiveKept"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/library/{kind}/{name}/bring-back": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Take it out of the archive */
        post: operations["bringBackKept"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/library/{kind}/{name}/copy": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Make a copy of it; a report's starts nothing by itself, a dataset's has the newest edition */
        post: operations["copyKept"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/library/{kind}/{name}/rename": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Give it another name; reports that refer to it follow, and the old name leads to it */
        post: operations["renameKept"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/made/{id}/{kind}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A file that was made to be looked at, or by an odd job */
        get: operations["downloadMade"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/messages/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A message with its attempts and the reports that came back */
        get: operations["showMessage"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/messages/{id}/again": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Send a message once more on purpose, with a reason: as a first time to whom it never reached, else marked as sent again */
        post: operations["sendAgain"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/messages/{id}/decide": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Decide a message nobody can know about: it arrived, or it shall go again */
        post: operations["decideMessage"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/messages/{id}/raw": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A message's bytes as .eml: as they were sent, or as they would go now */
        get: operations["downloadMessage"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/notices": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What somebody should know, the newest first */
        get: operations["listNotices"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/operations": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Everything an operator looks at, as it is now */
        get: operations["showOperations"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/outbox": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Messages by person, group, file, report, period and state: what was sent, when, and what the server said. Those in trouble come first, then those on their way, then the newest */
        get: operations["listOutbox"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/overview": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** How many of everything there are, and how many want a look */
        get: operations["showOverview"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/people": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Everybody who may sign in, may not yet, or may no more */
        get: operations["listPeople"];
        put?: never;
        /** Add somebody, with a link by which they come in once */
        post: operations["invitePerson"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/people/{person}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** One person */
        get: operations["showPerson"];
        /** Change what somebody may do, or what they are called */
        put: operations["changePerson"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/people/{person}/factors": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** Take out authenticator, passkeys and recovery codes of somebody who has lost them; their sessions end */
        delete: operations["dropFactorsOf"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/people/{person}/invitation": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** A new link, such as for a forgotten password; links before it end */
        post: operations["inviteAgain"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/people/{person}/off": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Switch a leaver off: sessions, tokens and links end at once */
        post: operations["switchOff"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/people/{person}/on": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let somebody in again who was switched off; sessions and tokens do not come back */
        post: operations["switchOn"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/people/{person}/sessions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** End all sessions of somebody */
        delete: operations["endSessionsOf"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/person-searches": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Look through everything for a person; it goes on behind the answer */
        post: operations["searchPerson"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/person-searches/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** How far a search is, and what it found */
        get: operations["showPersonSearch"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/person-searches/{id}/erase": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Erase the person where no duty to keep stands against it; it goes on behind the answer, and is written down */
        post: operations["erasePerson"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/person-searches/{id}/export.zip": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Everything that is known of the person: a JSON object a line, and the files */
        get: operations["exportPerson"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/questions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What was asked, the newest first */
        get: operations["listQuestions"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/questions/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A question with rows of its answer, as the data were when it was asked */
        get: operations["showQuestion"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/questions/{id}/files/{form}/{kind}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The answer as a file: a list, or the page of one row */
        get: operations["downloadAnswer"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/questions/{id}/rows/{row}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All columns of one row that was found */
        get: operations["showAnswerRow"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/recipients": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The shared recipient list, in its order */
        get: operations["listRecipients"];
        /** Import the shared recipient list from a table or from vCards: replace it, or merge */
        put: operations["importRecipients"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/recipients/entries": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Add an entry to the list */
        post: operations["addRecipient"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/recipients/entries/{row}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The entries of a row of the list */
        get: operations["showRecipient"];
        /** Change the entry of a row */
        put: operations["changeRecipient"];
        post?: never;
        /** Take the entry of a row out of the list */
        delete: operations["removeRecipient"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/recipients/export": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The list as a file that can be imported again */
        get: operations["exportRecipients"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/recipients/history": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who changed the list, when and how, newest first */
        get: operations["listRecipientVersions"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/recipients/preview": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What an import would change; nothing is kept */
        post: operations["previewRecipients"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/report-schema": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The JSON Schema of a report's definition */
        get: operations["showReportSchema"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Reports by name, each in its newest version, with the next times they run by themselves */
        get: operations["listReports"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A report with its definition */
        get: operations["showReport"];
        /** Save a report's definition, YAML or JSON; it is checked against data and templates first */
        put: operations["saveReport"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/files": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The files of all groups for a period, of each group the newest that were released */
        get: operations["listPeriodFiles"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/matching": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who would receive for each group of a report now, by which rule, or why nobody */
        get: operations["listMatching"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/message": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A report's message as it is edited: subject and body in each language */
        get: operations["showMessageWords"];
        /** Keep a report's message: templates as their next version, the rest in the report's next version */
        put: operations["saveMessageWords"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/message/preview": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** One group's messages as these texts would make them; nothing is kept and nothing is sent */
        post: operations["previewMessage"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/occasions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** A record comes in, or several: each is kept as an edition of its own kind and has a run of its own, at once, once for its key. JSON, or the fields of a form; by a sign-in, a sender's token, or a sender's signature */
        post: operations["takeRecords"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/periods": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The periods its data have rows of, and those it was run for, the newest first, with what became of each */
        get: operations["listPeriods"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/picks": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What a run over picked rows would do with each of them: to whom it goes, and whether it went out before */
        post: operations["lookAtPicks"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/prospect": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What a run would do, before it is started: each group with its people, and who has had theirs */
        get: operations["listProspect"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/senders": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Systems that may send records for a report */
        get: operations["listSenders"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/senders/{sender}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Let another system send records for this report and nothing else; its token or secret is told once */
        put: operations["saveSender"];
        post?: never;
        /** Let a system send records no more */
        delete: operations["deleteSender"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/steps": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Every step of a report's preparation with rows in, rows out and reasons */
        get: operations["listSteps"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/try": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Make a file of the report for one group, to look at; nothing is kept and nothing is sent */
        post: operations["tryReport"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/versions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All versions of a report, the newest first */
        get: operations["listReportVersions"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/reports/{name}/versions/{number}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A version of a report as it was saved */
        get: operations["showReportVersion"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Runs, newest first */
        get: operations["listRuns"];
        put?: never;
        /** Start a run, or a rehearsal */
        post: operations["startRun"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A run with its proof and progress; while it is held, with what its release would do */
        get: operations["showRun"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/audit.pdf": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** For an auditor: who prepared the run, who let it go, what went to whom, with digests */
        get: operations["auditRun"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/figures": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Make data of a released run's figures: a row for each group; the same run's are kept once */
        post: operations["keepFigures"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/files.zip": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A run's files in one zip, a folder for each group; or those of one group */
        get: operations["downloadRun"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/findings": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A run's findings one by one, what stops first */
        get: operations["listFindings"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/folder": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Write a run's files to a folder under the outgoing folder; nothing is ever written over */
        post: operations["exportToFolder"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/parcels": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What each group gets in a run */
        get: operations["listParcels"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/parcels/{number}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** One parcel with its message as it is sent and its trail */
        get: operations["showParcel"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/parcels/{number}/rows": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The rows a parcel was made of */
        get: operations["listParcelRows"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/pause": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let a run's waiting messages wait */
        post: operations["pauseRun"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/print.pdf": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The PDFs of all parcels in one file, for printing */
        get: operations["printRun"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/release": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let a held run's messages go */
        post: operations["releaseRun"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/resume": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let a run's waiting messages go on */
        post: operations["resumeRun"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/skip": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Leave groups out whose messages have not gone yet, with a reason */
        post: operations["skipGroups"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/stop": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Stop a run where it stands */
        post: operations["stopRun"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/runs/{id}/web-folder": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Put a run's files into a WebDAV folder, a folder for each group; nothing is ever written over */
        post: operations["exportToWebFolder"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/search": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What has a name like a text: reports, data, templates, people, groups, files and runs, the first of each */
        get: operations["search"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who calls, and what they may do */
        get: operations["showSelf"];
        /** Change what one is called and how one is spoken to */
        put: operations["changeSelf"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/authenticator": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** The first code of a new authenticator: from now on one is asked for at each sign-in */
        put: operations["addAuthenticator"];
        /** A secret for an authenticator (TOTP, RFC 6238); it counts once its first code was given */
        post: operations["beginAuthenticator"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/authenticator/off": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Do without the authenticator */
        post: operations["dropAuthenticator"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/factors": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What one signs in with */
        get: operations["showFactors"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/passkeys": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** One's passkeys */
        get: operations["listPasskeys"];
        put?: never;
        /** Keep the passkey that the browser made */
        post: operations["addPasskey"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/passkeys/{id}/off": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Take a passkey out */
        post: operations["dropPasskey"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/passkeys/options": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What a browser needs to make a passkey */
        post: operations["beginPasskey"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/password": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Change one's password; all other sessions end */
        put: operations["changePassword"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/recovery-codes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Other recovery codes in place of those before */
        post: operations["makeRecoveryCodes"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/sessions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Where one is signed in */
        get: operations["listSessions"];
        put?: never;
        post?: never;
        /** End all of one's sessions but this one */
        delete: operations["endOtherSessions"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/self/sessions/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** End one of one's sessions, wherever it is */
        delete: operations["endSession"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/session": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who is signed in */
        get: operations["showSession"];
        put?: never;
        /** Sign in; the answer sets the console's cookie */
        post: operations["signIn"];
        /** Sign out */
        delete: operations["signOut"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/session/passkey": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Sign in by what the browser made of the options */
        post: operations["signInByPasskey"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/session/passkey/options": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What a browser needs to sign in by passkey */
        post: operations["beginPasskeySignIn"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/session/ways": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** How one can sign in here */
        get: operations["showWaysIn"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/sign-in-provider": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The office's own provider of sign-ins */
        get: operations["showProvider"];
        /** Let people sign in by the office's own provider (OpenID Connect), which has to answer */
        put: operations["saveProvider"];
        post?: never;
        /** Let nobody sign in by the provider any more; sessions go on */
        delete: operations["deleteProvider"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/templates": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Templates by name, each in its newest version */
        get: operations["listTemplates"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/templates/{file}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A template with the reports that use it; of an HTML body also its marks */
        get: operations["showTemplate"];
        /** Add a version of a template; the body is the file. The same bytes make no new version */
        put: operations["saveTemplate"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/templates/{file}/content": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The template's file */
        get: operations["downloadTemplate"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/templates/{file}/marks": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Every mark with its place and what it is filled from; with a report each is checked against it */
        get: operations["listMarks"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/templates/{file}/pages.pdf": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The template as it is, as pages */
        get: operations["printTemplate"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/templates/{file}/places": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What a definition can name in a template: its tables, areas, cells, sheets and bookmarks */
        get: operations["listPlaces"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/tokens": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Tokens for scripts: one's own, or everybody's for who may operate */
        get: operations["listTokens"];
        put?: never;
        /** Make a token for a script, for no more than one may oneself */
        post: operations["addToken"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/tokens/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** End a token */
        delete: operations["revokeToken"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/tokens/{id}/rotate": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Give a token another secret; the old one ends at once, or after some hours */
        post: operations["rotateToken"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/tools/archive": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Several files that odd jobs made as one archive */
        post: operations["putTogether"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/tools/differ": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Compare a file that is held with another: workbooks cell by cell, decks by slide and shape; the body is the other file */
        post: operations["compareWorkbooks"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/tools/hold": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Hold a workbook or slide deck for a short while, to be compared with another; the body is the file */
        post: operations["holdWorkbook"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/tools/replace": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Replace words in all texts of a workbook's cells; the body is the file */
        post: operations["replaceWords"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/tools/sheets": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Each visible sheet of a workbook as a workbook of its own, values only; the body is the file */
        post: operations["takeSheetsApart"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/trail": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What was done, by person, thing and time, the newest first */
        get: operations["listTrail"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/trail-words": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Everything that can be looked for in the trail as what was done */
        get: operations["listTrailWords"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/trail.jsonl": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The whole trail in its order, one JSON object a line */
        get: operations["downloadTrail"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/uploads": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Put a file into the store without loading it; the body is the file */
        post: operations["uploadFile"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/uploads/{upload}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** An uploaded file that nothing was made of yet */
        get: operations["showUpload"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/verification": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** How far the last verification is, and what it found */
        get: operations["showVerification"];
        put?: never;
        /** Read the whole file store against the records; it goes on behind the answer */
        post: operations["verifyStore"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/watchers": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who is told of what, and how */
        get: operations["listWatchers"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/watchers/{watcher}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Let somebody be told: by mail or by a call, at once or each morning */
        put: operations["saveWatcher"];
        post?: never;
        /** Tell somebody no more */
        delete: operations["deleteWatcher"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/ways-out": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Ways out besides mail, with what waits for them */
        get: operations["listWaysOut"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/ways-out/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A way out with what waits for it */
        get: operations["showWayOut"];
        /** Set a way out, new or known; secrets that are not given stay */
        put: operations["saveWayOut"];
        post?: never;
        /** Take a way out away, where no report needs it and nothing waits for it */
        delete: operations["removeWayOut"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/ways-out/{name}/pause": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let what goes there wait */
        post: operations["pauseWayOut"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/ways-out/{name}/resume": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let what goes there go on, at once */
        post: operations["resumeWayOut"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/ways-out/{name}/try": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** See whether it can be reached and written to: a small file is put there and taken away again */
        post: operations["tryWayOut"];
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
        Address: {
            address: string;
            name?: string;
        };
        AddressResult: {
            response: string;
            /** @enum {string} */
            state: "taken" | "later" | "refused" | "returned" | "delayed" | "delivered";
        };
        Answer: {
            columns: components["schemas"]["Column"][];
            /** @description Place of the first of these rows among those found, from 0. */
            first: number;
            /** @description Where nothing was found: why that may be. */
            hints: string[];
            next: string | null;
            question: components["schemas"]["Question"];
            /** @description Numbers of the rows in their origin. */
            rowNumbers: number[];
            /** @description Row by row: dates as 2026-11-02, moments as 2026-11-02T07:30:00, times as 07:30:00. */
            rows: components["schemas"]["Cell"][][];
        };
        AnswerForm: {
            kinds: ("xlsx" | "docx" | "pptx" | "pdf" | "csv" | "tsv" | "txt" | "json" | "jsonl" | "ods" | "html" | "ics" | "vcf")[];
            name: string;
            /**
             * @description Whether it is made of all rows that were found, or of one.
             * @enum {string}
             */
            of: "list" | "row";
        };
        Archived: {
            /** Format: date-time */
            archivedAt: string;
            archivedBy: string;
            name: string;
            title: string;
        };
        Arrival: {
            /** Format: date-time */
            at: string;
            dataset: string | null;
            edition: number | null;
            file: string;
            id: string;
            message: string | null;
            /** @enum {string} */
            outcome: "loaded" | "refused";
            sender: string;
            /** @enum {string} */
            way: "folder" | "mail";
        };
        Attempt: {
            finishedAt: string | null;
            messageId: string;
            number: number;
            outcome: ("sent" | "later" | "refused" | "unsure") | null;
            response: string | null;
            /** @description How far it came with the mail server. */
            stage: string | null;
            /** Format: date-time */
            startedAt: string;
            worker: string | null;
        };
        Calendar: {
            /** Format: date-time */
            changedAt: string;
            changedBy: string;
            daysOff: number;
            definition: {
                [key: string]: unknown;
            };
            /** @description Whether it says how fiscal years fall. */
            fiscal: boolean;
            name: string;
            periods: number;
            title: string;
            /** @description Reports that go by it. */
            usedBy: string[];
        };
        CalendarFile: {
            off: {
                [key: string]: unknown;
            }[];
            periods: {
                [key: string]: unknown;
            }[];
        };
        CalendarSummary: {
            /** Format: date-time */
            changedAt: string;
            changedBy: string;
            daysOff: number;
            /** @description Whether it says how fiscal years fall. */
            fiscal: boolean;
            name: string;
            periods: number;
            title: string;
            /** @description Reports that go by it. */
            usedBy: string[];
        };
        CalendarYear: {
            days: {
                /** Format: date */
                day: string;
                half: boolean;
                /** @description What it is called; null of a weekday that is not worked. */
                name: string | null;
            }[];
            periods: {
                /** Format: date */
                from: string;
                key: string;
                kind: string;
                label: string;
                /** Format: date */
                to: string;
            }[];
        };
        Cell: string | number | boolean | null;
        Colleague: {
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            name: string;
            /** @description What may be asked; everything that can be, without any. */
            reports: string[] | null;
            usedAt: string | null;
        };
        Column: {
            name: string;
            /** @enum {string} */
            type: "text" | "number" | "date" | "datetime" | "time" | "boolean";
            unit?: string;
        };
        Dataset: {
            editions: number;
            name: string;
            newest: components["schemas"]["Edition"] | null;
        };
        DatasetSettings: {
            /** @description Takes files for it by mail. */
            address: string | null;
            aliases: {
                column: string;
                from: string;
                to: string;
            }[];
            /** @description Files put into it are taken by themselves. */
            folder: string | null;
            hasPassword: boolean;
            keepMonths: number | null;
            key: string[];
            mailbox: {
                name: string;
                /** @description Addresses, or domains as @lifts.example. */
                senders: string[];
            } | null;
            /** @enum {string} */
            mode: "replace" | "append";
            rules: components["schemas"]["IntakeRules"];
        };
        Difference: {
            added: {
                count: number;
                /** @description The first of them, by number in the origin. */
                rowNumbers: number[];
            };
            /** @description Where the dataset has a key. */
            changed: {
                columns: {
                    [key: string]: number;
                };
                count: number;
                examples: {
                    after: components["schemas"]["Cell"];
                    before: components["schemas"]["Cell"];
                    column: string;
                    key: string;
                }[];
                /** @description The first of them, by number in the origin. */
                rowNumbers: number[];
            } | null;
            columns: {
                added: string[];
                gone: string[];
            };
            gone: {
                count: number;
                /** @description The first of them, by number in the origin. */
                rowNumbers: number[];
            };
            groups: {
                added: string[];
                after: number;
                before: number;
                column: string;
                gone: string[];
            }[];
            rows: {
                after: number;
                before: number;
            };
            same: number;
            /** @description Exact decimals. */
            totals: {
                after: string;
                before: string;
                column: string;
                difference: string;
            }[];
        };
        DraftGroup: {
            /** @description Whether the report has run before, and had it not the last time. */
            isNew: boolean;
            key: string;
            label: string;
            /** @description Why nobody receives. */
            nobody: string | null;
            people: number;
            rows: number;
            totals: {
                [key: string]: string;
            };
        };
        DraftLook: {
            columns: components["schemas"]["Column"][];
            /** @description What each condition that was asked for does, over the rows of the period, each for itself. */
            conditions: {
                /** @description Row by row: dates as 2026-11-02, moments as 2026-11-02T07:30:00, times as 07:30:00. */
                cells: components["schemas"]["Cell"][][];
                formula: string;
                holds: number;
                leavesOut: number;
                /** @description The first rows it leaves out, by their number in the origin. */
                rowNumbers: number[];
                /** @description Why it cannot be counted. */
                trouble: string | null;
            }[];
            findings: components["schemas"]["Finding"][];
            groupCount: number;
            /** @description The first of the groups that were looked for. */
            groups: components["schemas"]["DraftGroup"][];
            /** @description Of all groups, whichever are listed. */
            groupsWithoutPeople: number;
            /** @description Columns as they were loaded, which conditions are about. */
            loadedColumns: components["schemas"]["Column"][];
            /** @description Messages that would go out. */
            messageCount: number;
            /** @description The times it would run by itself within a year. */
            nextTimes: components["schemas"]["ScheduledTime"][];
            /** @description What one group gets. */
            parcel: {
                attachments: string[];
                /** @description Row by row: dates as 2026-11-02, moments as 2026-11-02T07:30:00, times as 07:30:00. */
                cells: components["schemas"]["Cell"][][];
                files: {
                    file: string;
                    /** @enum {string} */
                    kind: "xlsx" | "docx" | "pptx" | "pdf" | "csv" | "tsv" | "txt" | "json" | "jsonl" | "ods" | "html" | "ics" | "vcf";
                    path: string;
                }[];
                /** @description Whether the report has run before, and had it not the last time. */
                isNew: boolean;
                key: string;
                label: string;
                messages: components["schemas"]["DraftMessage"][];
                /** @description Why nobody receives. */
                nobody: string | null;
                number: number;
                people: number;
                recipients: {
                    blindCopies: components["schemas"]["Address"][];
                    copies: components["schemas"]["Address"][];
                    language: string | null;
                    name: string;
                    /** @enum {string} */
                    role: "to" | "copy" | "blind";
                    to: components["schemas"]["Address"][];
                    /** @description The rule that names them. */
                    why: string;
                }[];
                rowNumbers: number[];
                rows: number;
                totals: {
                    [key: string]: string;
                };
            } | null;
            /** @description The period it was looked at for. */
            period: string | null;
            /** @description What keeps parts of it from being looked at. */
            problems: {
                advice?: string;
                /** @description Stable code of what went wrong; docs/operating.md lists them all. */
                code: string;
                /** @description By which something unforeseen is found in the log. */
                instance?: string;
                title: string;
                /** @description A file, a sheet and cell, a field of a definition, a group. */
                where?: string;
            }[];
            rows: {
                inGroups: number;
                leftOut: {
                    count: number;
                    reason: string;
                }[];
                made: number;
                master: number;
            };
            /** @description Until the last of them has gone, at the identity's pace. */
            sendingSeconds: number | null;
            steps: components["schemas"]["Step"][];
            totals: {
                agrees: boolean;
                leftOut: string;
                master: string;
                name: string;
                parcels: string | null;
            }[];
        };
        DraftMessage: {
            html: string;
            language: string;
            people: string[];
            /** @description About how many bytes its words have on their way, without files. */
            size: number;
            subject: string;
            text: string;
        };
        EditableMessage: {
            columns: {
                name: string;
                /** @enum {string} */
                type: "text" | "number" | "date" | "datetime" | "time" | "boolean";
            }[];
            version: number;
            words: components["schemas"]["MessageWords"];
        };
        Edition: {
            /** @description Where it adds to the edition before. */
            appended: {
                added: number;
                replaced: number;
            } | null;
            /** @description How many cells stand otherwise than in the file. */
            changes: {
                column: string;
                count: number;
                kind: string;
            }[];
            columns: components["schemas"]["Column"][];
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            dataset: string;
            /** @description What was decided while reading, and why. */
            decisions: {
                chosen: string;
                corrected: boolean;
                what: string;
                why: string;
            }[];
            /** @description When its rows and its file were deleted; what else is told of it stays. */
            emptiedAt: string | null;
            findings: components["schemas"]["Finding"][];
            headerRow: number;
            /** @description Lines of the file with content that are no rows, by reason; the first of each. */
            leftOut: {
                count: number;
                lines: {
                    row: number;
                    text: string;
                }[];
                /** @enum {string} */
                reason: "title" | "header" | "total" | "blank" | "note" | "repeated header" | "outside" | "other table";
            }[];
            number: number;
            origin: string;
            /** @description How the bytes were read: kind, sheet, encoding, delimiter. */
            reading: {
                [key: string]: string;
            };
            rowCount: number;
            /** @description Corrections it was read with. */
            rules: components["schemas"]["IntakeRules"];
            sha256: string;
        };
        EditionDifference: {
            added: {
                count: number;
                /** @description The first of them, by number in the origin. */
                rowNumbers: number[];
            };
            after: number;
            before: number;
            /** @description Where the dataset has a key. */
            changed: {
                columns: {
                    [key: string]: number;
                };
                count: number;
                examples: {
                    after: components["schemas"]["Cell"];
                    before: components["schemas"]["Cell"];
                    column: string;
                    key: string;
                }[];
                /** @description The first of them, by number in the origin. */
                rowNumbers: number[];
            } | null;
            columns: {
                added: string[];
                gone: string[];
            };
            gone: {
                count: number;
                /** @description The first of them, by number in the origin. */
                rowNumbers: number[];
            };
            groups: {
                added: string[];
                after: number;
                before: number;
                column: string;
                gone: string[];
            }[];
            rows: {
                after: number;
                before: number;
            };
            same: number;
            /** @description Exact decimals. */
            totals: {
                after: string;
                before: string;
                column: string;
                difference: string;
            }[];
        };
        EditionSummary: {
            columns: number;
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            dataset: string;
            emptiedAt: string | null;
            notes: number;
            number: number;
            origin: string;
            rowCount: number;
            /** @description Findings that stop. */
            stops: number;
            warnings: number;
        };
        EnclosedFile: {
            /**
             * @description The same for all, or found for this group.
             * @enum {string}
             */
            kind: "fixed" | "found";
            name: string;
            origin: string;
            sha256: string;
            size: number;
        };
        Enquiry: {
            /** @description Columns of the answer. */
            columns: components["schemas"]["Column"][];
            data: string;
            edition: {
                /** Format: date-time */
                createdAt: string;
                number: number;
                origin: string;
                rowCount: number;
            };
            fields: {
                /** @description How many different values there are; of very many the most frequent are listed. */
                choiceCount: number;
                /** @description Of a choice: the values in order. */
                choices: {
                    count: number;
                    value: components["schemas"]["Cell"];
                }[];
                columns: string[];
                /** @enum {string} */
                kind: "choose" | "between" | "search";
                label: string;
                name: string;
                needed: boolean;
                /** @enum {string} */
                type: "text" | "number" | "date" | "datetime" | "time" | "boolean";
            }[];
            forms: components["schemas"]["AnswerForm"][];
            name: string;
            title: string;
        };
        EnquirySummary: {
            data: string;
            /** @description What is asked. */
            fields: string[];
            name: string;
            title: string;
        };
        Envelope: {
            bcc: components["schemas"]["Address"][];
            cc: components["schemas"]["Address"][];
            to: components["schemas"]["Address"][];
        };
        Factors: {
            /** @description Since when codes of an authenticator are asked for. */
            authenticatorSince: string | null;
            hasPassword: boolean;
            /** @description Whether Corbix is open under an address that passkeys can be of. */
            mayHavePasskeys: boolean;
            passkeys: number;
            /** @description Those that are left. */
            recoveryCodes: number;
        };
        Finding: {
            advice: string;
            /** @description Where to look in the table: a column, and the first of the rows by their number in the origin. */
            cells?: {
                column?: string;
                rows: number[];
            };
            code: string;
            /** @description How many cells, rows or groups it concerns. */
            count?: number;
            /** @enum {string} */
            severity: "stop" | "warn" | "note";
            what: string;
            where: string;
        };
        Font: {
            family: string;
            /** @description Whether somebody brought it. */
            own: boolean;
        };
        FoundMessage: {
            addresses: string[];
            /** Format: date-time */
            at: string;
            /** @enum {string} */
            became: "sent" | "unsure";
            decided: ("arrived" | "due") | null;
            decidedBy: string | null;
            id: string;
            /** @description Its group. */
            label: string;
            /** @description The message that it is in the outbox; null where only the journal knows of it. */
            message: string | null;
            /** @description What it was delivered for: a period, an edition, a row. */
            occasion: string;
            part: string;
            report: string;
            run: string;
            /** @description How that message stands now. */
            state: string | null;
        };
        Group: {
            count: number;
            /** @description Null where there is no list. */
            hasRecipients: boolean | null;
            isNew: boolean;
            key: string;
            label: string;
            spellings: string[];
        };
        GroupMatching: {
            group: string;
            /** @description Why nobody receives. */
            nobody: string | null;
            number: number;
            people: components["schemas"]["MatchedPerson"][];
            rows: number;
        };
        GroupProspect: {
            /** @description When it was had last. */
            day: string | null;
            group: string;
            key: string;
            /** @description Their names, or addresses where they have none. */
            people: string[];
            rows: number;
            run: string | null;
            /**
             * @description `some` have not had it yet; `had` all of them; `none` has nobody who receives.
             * @enum {string}
             */
            says: "go" | "some" | "had" | "none";
            /** @description Why nobody receives. */
            why: string | null;
        };
        Halt: {
            /** Format: date-time */
            at: string;
            by: string;
            endedAt: string | null;
            endedBy: string | null;
            id: string;
            /** @description Those of them that wait for a person's word. */
            open: number;
            /** @description Messages that were found to have been sent. */
            sent: number;
            /** @description Messages that were found begun, and nobody knows whether they arrived. */
            unsure: number;
            /** @description The same in words. */
            what: string;
            /**
             * @description `gone-back`: the journal tells of messages that the database does not know as begun. `restored`: from a backup. `other-journal`: it is another database's.
             * @enum {string}
             */
            why: "by-hand" | "restored" | "gone-back" | "other-journal" | "damaged-journal";
            /** @description What who ended it said. */
            words: string | null;
        };
        Hanging: {
            count: number;
            /** @description Titles of reports, ids of runs, the reports and bodies in whose text a name stands; the first of them. */
            names: string[];
            /** @description What cannot be done as long as it is so. */
            stops: ("rename" | "archive" | "delete")[];
            /**
             * @description `running` are runs that are not over; `texts` show a file by its name.
             * @enum {string}
             */
            what: "versions" | "editions" | "runs" | "running" | "deliveries" | "schedule" | "reports" | "archivedReports" | "texts" | "mailbox";
        };
        Identity: {
            hasDkimKey: boolean;
            hasPassword: boolean;
            /** @description Messages of paused runs. */
            held: number;
            /** @description Whether its server is being left alone now. */
            isResting: boolean;
            name: string;
            paused: boolean;
            restUntil: string | null;
            restWhy: string | null;
            /** @description Until all that waits has gone; null while it is paused. */
            secondsLeft: number | null;
            sending: number;
            sentInHour: number;
            settings: components["schemas"]["IdentitySettings"];
            waiting: number;
        };
        IdentitySettings: {
            authority?: string;
            connections: number;
            dkim?: {
                domain: string;
                selector: string;
            };
            domains: string[];
            firstPause: number;
            from: string;
            host?: string;
            maxBytes: number;
            patienceHours: number;
            perHour?: number;
            perMinute: number;
            port: number;
            /** @enum {string} */
            security: "tls" | "starttls" | "none";
            senders: string[];
            /** @enum {string} */
            tooLarge: "stop" | "zip" | "link";
            user?: string;
        };
        IntakeRules: {
            /** @description What stands between two cells of a text file: a name, or one sign. */
            delimiter?: ("comma" | "semicolon" | "tabulator" | "bar") | string;
            /** @description Of a text file: UTF-8, windows-1250, ISO-8859-2, KOI8-R, CP852, macRoman and others. */
            encoding?: string;
            /** @description Where the table ends: as found, at the first blank row, at the last row with content, or at a row. */
            end?: ("found" | "blank-row" | "last-row") | {
                row: number;
            };
            /** @description Letters of the first column. */
            firstColumn?: string;
            /**
             * @description `none` where the file has no header: its first line is a row.
             * @enum {string}
             */
            header?: "none";
            /** @description Lines the header has. */
            headerLines?: number;
            /** @description Row of the header; of one with several lines the first. */
            headerRow?: number;
            /** @description Letters of the last column. */
            lastColumn?: string;
            /** @description Of JSON with several lists: the one whose entries are the rows, such as `people`. */
            list?: string;
            /** @description What the columns of a file without a header are called, from the first on. */
            names?: string[];
            /**
             * @description What cells of a text file may be wrapped in.
             * @enum {string}
             */
            quote?: "quotation mark" | "apostrophe" | "none";
            /** @description Name of the sheet. */
            sheet?: string;
            /** @description A defined table or a named range of the workbook. */
            table?: string;
            /** @description Types by column name. */
            types?: {
                [key: string]: {
                    /**
                     * @description The decimal sign in numbers written as text.
                     * @enum {string}
                     */
                    decimal?: "point" | "comma";
                    /**
                     * @description Order of day and month in dates written as text.
                     * @enum {string}
                     */
                    order?: "day-first" | "month-first";
                    /** @enum {string} */
                    type: "text" | "number" | "date" | "datetime" | "time" | "boolean";
                };
            };
        };
        Invitation: {
            /** @description Whether it went to the person's address. */
            isMailed: boolean;
            /**
             * Format: uri
             * @description Works once, and is told once.
             */
            link: string;
            /** @description Why it did not, where that was asked for. */
            mailTrouble: string | null;
            person: components["schemas"]["Person"];
            /** Format: date-time */
            until: string;
        };
        JsonSchema: {
            [key: string]: unknown;
        };
        Kept: {
            archivedAt: string | null;
            archivedBy: string | null;
            /** @description What it was called before, the newest first; each still leads to it. */
            formerNames: string[];
            hanging: components["schemas"]["Hanging"][];
            /** @description Whether, once deleted, it is still there for the runs that were made with it, in no list any more. */
            keptForRuns: boolean;
            /** @enum {string} */
            kind: "reports" | "datasets" | "templates";
            name: string;
        };
        KeptList: {
            count: number;
            findings: components["schemas"]["Finding"][];
        };
        KeptSignInProvider: {
            /**
             * Format: uri
             * @description The address that the provider has to know to send people back to.
             */
            back: string;
            /**
             * Format: uri
             * @description The address that the provider may tell of people who have signed out there or left.
             */
            ended: string;
            hasSecret: boolean;
            settings: {
                clientId: string;
                /**
                 * @description What people of each group may do. Who is of several may do all of it; who is of none does not come in.
                 * @default []
                 */
                groups: {
                    group: string;
                    /** @description By role `all`, or the reports it is for. Who may prepare or release may look too, and who may look may ask. */
                    roles: {
                        ask?: "all" | string[];
                        look?: "all" | string[];
                        /** @constant */
                        operate?: "all";
                        prepare?: "all" | string[];
                        release?: "all" | string[];
                    };
                }[];
                /**
                 * @description The claim that tells somebody's groups; of one within others the way to it, such as `access.roles`.
                 * @default groups
                 */
                groupsClaim: string;
                /**
                 * Format: uri
                 * @description As the provider calls itself, such as https://id.lifts.example.
                 */
                issuer: string;
                /** @default openid profile email */
                scope: string;
                /**
                 * @description How long somebody is in before they come by the provider again.
                 * @default 12
                 */
                sessionHours: number;
                /** @description What the button says: `Sign in by …`. */
                title: string;
                /**
                 * @description Whether people who were invited here are known by their mail address, where the provider has verified it.
                 * @default false
                 */
                trustsAddresses: boolean;
            };
        };
        Letter: {
            attachments: {
                contentType: string;
                filename: string;
                index: number;
                size: number;
            }[];
            headers: string[];
            html: string | null;
            id: string;
            mailFrom: string;
            messageId: string;
            rcptTo: string[];
            /** Format: date-time */
            receivedAt: string;
            size: number;
            subject: string;
            text: string;
        };
        LetterboxRule: {
            id: number;
            rule: {
                /**
                 * @description refuse, defer or full: an answer to an address (550, 451, 452). slow: waits before it answers a sender; slow-answer: after it has kept the message. throttle: 421 to whoever sends more than a few a second. break-before, break-within, break-after: the connection ends before, in the middle of, and after the data, which is kept then; lose: after the data, which is not kept. bounce: takes it, and sends a report of non-delivery. refuse-data, defer-data: an answer to the data (554, 451).
                 * @enum {string}
                 */
                does: "refuse" | "defer" | "full" | "slow" | "slow-answer" | "throttle" | "break-before" | "break-within" | "break-after" | "lose" | "bounce" | "refuse-data" | "defer-data";
                /**
                 * @description Of throttle: how many it takes.
                 * @default 5
                 */
                perSecond: number;
                /** @description Words of the answer. */
                says?: string;
                /**
                 * @description Of slow and slow-answer: how long it waits.
                 * @default 2
                 */
                seconds: number;
                /**
                 * @description Only this share of messages, by chance.
                 * @default 1
                 */
                share: number;
                /** @description Only subjects that hold this text; for rules about the data. */
                subject?: string;
                /** @description Only so often, then no more. */
                times?: number;
                /** @description Only addresses that hold this text. */
                to?: string;
            };
            used: number;
        };
        LetterSummary: {
            attachments: number;
            id: string;
            mailFrom: string;
            messageId: string;
            rcptTo: string[];
            /** Format: date-time */
            receivedAt: string;
            size: number;
            subject: string;
        };
        ListChange: {
            /** @description What is different, in words. */
            fields: string[];
            group: string;
            /** @enum {string} */
            kind: "added" | "changed" | "removed";
            name: string;
        };
        ListPreview: {
            added: number;
            changed: number;
            /** @description The first 1,000 of them. */
            changes: components["schemas"]["ListChange"][];
            findings: components["schemas"]["Finding"][];
            /** @description Entries of the list afterwards. */
            recipients: number;
            removed: number;
            unchanged: number;
        };
        ListVersion: {
            added: number;
            changed: number;
            /** @description The first of them; a whole import is told by its counts. */
            changes: components["schemas"]["ListChange"][];
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            /** @description When its entries were deleted; what changed is not known any more then. */
            emptiedAt: string | null;
            id: string;
            origin: string;
            recipients: number;
            removed: number;
        };
        Look: {
            columns: components["schemas"]["Column"][];
            first: number;
            next: string | null;
            /** @description Rows there are; `total` are those found. */
            of: number;
            /** @description Numbers of the rows in their origin. */
            rowNumbers: number[];
            /** @description Row by row: dates as 2026-11-02, moments as 2026-11-02T07:30:00, times as 07:30:00. */
            rows: components["schemas"]["Cell"][][];
            total: number;
        };
        MadeFile: {
            attached: boolean;
            id: string;
            /** @enum {string} */
            kind: "xlsx" | "docx" | "pptx" | "pdf" | "csv" | "tsv" | "txt" | "json" | "jsonl" | "ods" | "html" | "ics" | "vcf";
            pages: number | null;
            path: string;
            sha256: string;
            size: number;
        };
        Mark: {
            from: string;
            mark: string;
            problem?: {
                advice?: string;
                what: string;
            };
            where: string;
        };
        MatchedPerson: {
            blindCopies: components["schemas"]["Address"][];
            copies: components["schemas"]["Address"][];
            language: string | null;
            name: string;
            /** @enum {string} */
            role: "to" | "copy" | "blind";
            to: components["schemas"]["Address"][];
            /** @description The rule that names them. */
            why: string;
        };
        Message: {
            /** @description 0 for the first; counts each sending again. */
            again: number;
            againReason: string | null;
            attempts: number;
            /** @description The date it bears. */
            datedAt: string | null;
            downloads: {
                /** Format: date-time */
                at: string;
                path: string;
            }[];
            envelope: components["schemas"]["Envelope"];
            groupKey: string;
            html: string;
            id: string;
            identity: string;
            /** @description Whether its bytes as sent are kept. */
            isKept: boolean;
            language: string | null;
            messageId: string;
            notBefore: string | null;
            part: string;
            releasedAt: string | null;
            reports: {
                /** Format: date-time */
                at: string;
                id: string;
                recipients: {
                    /** @enum {string} */
                    action: "failed" | "delayed" | "delivered" | "relayed" | "expanded";
                    address: string;
                    status: string;
                    words: string;
                }[];
            }[];
            response: string | null;
            /** @description By address. */
            results: {
                [key: string]: components["schemas"]["AddressResult"];
            };
            runId: string;
            sentAt: string | null;
            /** @description Of its bytes as sent. */
            sha256: string | null;
            size: number | null;
            /** @enum {string} */
            state: "held" | "queued" | "sending" | "sent" | "refused" | "unsure" | "skipped" | "returned";
            subject: string;
            text: string;
            /** Format: date-time */
            touchedAt: string;
            trail: components["schemas"]["Attempt"][];
            /** @description Of files that go by another way than mail: its name; addresses are places there. */
            way: string | null;
        };
        MessageSummary: {
            /** @description 0 for the first; counts each sending again. */
            again: number;
            againReason: string | null;
            attempts: number;
            envelope: components["schemas"]["Envelope"];
            id: string;
            identity: string;
            messageId: string;
            part: string;
            response: string | null;
            /** @description By address. */
            results: {
                [key: string]: components["schemas"]["AddressResult"];
            };
            sentAt: string | null;
            size: number | null;
            /** @enum {string} */
            state: "held" | "queued" | "sending" | "sent" | "refused" | "unsure" | "skipped" | "returned";
            subject: string;
            /** @description Of files that go by another way than mail: its name; addresses are places there. */
            way: string | null;
        };
        MessageWords: {
            [key: string]: {
                body: string;
                /** @enum {string} */
                kind: "html" | "markdown" | "text";
                subject: string;
                /** @description File among the templates it stands in. */
                template?: string;
                /** @description Plain text; made from the HTML if left out. */
                text?: string;
            };
        };
        Notice: {
            advice: string | null;
            /** Format: date-time */
            at: string;
            id: string;
            /** @enum {string} */
            kind: "waits-for-release" | "run-stopped" | "run-failed" | "refused" | "nothing-came" | "nothing-to-send" | "schedule-missed" | "schedule-failed" | "halted";
            report: string | null;
            run: string | null;
            what: string;
        };
        Operations: {
            checks: {
                advice: string | null;
                /** @enum {string} */
                name: "database" | "store" | "journal" | "workers" | "outbox" | "clock" | "room" | "sending";
                /** @enum {string} */
                state: "ok" | "warn" | "fail";
                what: string;
            }[];
            /** @description Whether the service can do its work. */
            ok: boolean;
            processes: {
                endedAt: string | null;
                host: string | null;
                id: string;
                kind: string | null;
                /** @description Bytes. */
                memory: number | null;
                pid: number | null;
                /** Format: date-time */
                seenAt: string;
                /** Format: date-time */
                startedAt: string;
                version: string | null;
            }[];
            queues: {
                /** @description Seconds since when the longest waits. */
                oldest: number;
                /** @enum {string} */
                queue: "plan" | "make" | "prove" | "messages" | "notices" | "callbacks";
                waiting: number;
            }[];
            room: {
                connections: number;
                database: number;
                fileBytes: number;
                files: number;
                /** @description Bytes, where the data folder is. */
                free: number;
                mostConnections: number;
                tables: {
                    bytes: number;
                    name: string;
                    rows: number;
                }[];
                total: number;
            };
            /** @description Steps of runs that took longest within the last week. */
            slow: {
                /** Format: date-time */
                at: string;
                report: string;
                run: string;
                seconds: number;
                step: string;
            }[];
            versions: {
                corbix: string;
                database: string;
                node: string;
                /** @description The last change of the database's structure. */
                structure: string;
            };
        };
        OutboxEntry: {
            /** @description 0 for the first; counts each sending again. */
            again: number;
            againReason: string | null;
            attachments: string[];
            attempts: number;
            envelope: components["schemas"]["Envelope"];
            id: string;
            identity: string;
            label: string;
            messageId: string;
            /** @description When it is tried next. */
            notBefore: string | null;
            parcel: number;
            part: string;
            period: string;
            rehearsalTo: string | null;
            report: string;
            response: string | null;
            /** @description By address. */
            results: {
                [key: string]: components["schemas"]["AddressResult"];
            };
            runId: string;
            sentAt: string | null;
            size: number | null;
            /** @enum {string} */
            state: "held" | "queued" | "sending" | "sent" | "refused" | "unsure" | "skipped" | "returned";
            subject: string;
            /** Format: date-time */
            touchedAt: string;
            /** @description Of files that go by another way than mail: its name; addresses are places there. */
            way: string | null;
        };
        Outlook: {
            again: number;
            going: number;
            groups: number;
            had: number;
            messages: number;
            none: number;
            notable: {
                day?: string;
                label: string;
                messages: number;
                run?: string;
                /** @enum {string} */
                what: "go" | "some" | "again" | "had" | "none";
                why?: string;
            }[];
            sentences: string[];
            some: number;
        };
        Overview: {
            datasets: number;
            held: number;
            letters: number;
            onTheWay: number;
            reports: number;
            runs: number;
            sent: number;
            templates: number;
            /** @description Messages that were refused, came back or are unsure. */
            troubled: number;
            /** @description Messages of the last thirty days that did not get through, by run and state; settled ones are left out. */
            troubles: {
                count: number;
                /** @description The first of them. */
                groups: string[];
                periodLabel: string;
                report: string;
                /** @description What the mail server said last. */
                response: string | null;
                run: string;
                /** @enum {string} */
                state: "refused" | "returned" | "unsure";
                title: string;
            }[];
        };
        Parcel: {
            attachments: string[];
            attempts: components["schemas"]["Attempt"][];
            enclosed: components["schemas"]["EnclosedFile"][];
            error: {
                advice?: string;
                code: string;
                message: string;
                where?: string;
            } | null;
            files: components["schemas"]["MadeFile"][];
            findings: components["schemas"]["Finding"][];
            groupKey: string;
            html: string | null;
            label: string;
            /** @description Why its group is left out. */
            leftOut: string | null;
            /** @description The newest; what was sent before is told with the parcel. */
            message: components["schemas"]["MessageSummary"] | null;
            messages: components["schemas"]["MessageSummary"][];
            /** @description Of rows and totals the greatest change since then, by the larger of both: 0 to 1. */
            moved: number | null;
            number: number;
            recipients: components["schemas"]["Receiver"][];
            rowCount: number;
            rowsDigest: string;
            /** @description What the group had in the run of the period before. */
            since: {
                bytes: number;
                /** @description The total that moved most; null for the count of rows. */
                figure: string | null;
                isResized: boolean;
                rows: number;
                totals: {
                    [key: string]: string;
                };
            } | null;
            /** @enum {string} */
            state: "planned" | "made" | "failed";
            text: string | null;
            /** @description Exact decimals. */
            totals: {
                [key: string]: string;
            };
            /** @description What goes by other ways than mail. */
            ways: {
                /** @enum {string} */
                state: "held" | "queued" | "sending" | "sent" | "refused" | "unsure" | "skipped" | "returned";
                way: string;
            }[];
        };
        ParcelSummary: {
            error: {
                advice?: string;
                code: string;
                message: string;
                where?: string;
            } | null;
            files: components["schemas"]["MadeFile"][];
            groupKey: string;
            label: string;
            /** @description Why its group is left out. */
            leftOut: string | null;
            /** @description The newest; what was sent before is told with the parcel. */
            message: components["schemas"]["MessageSummary"] | null;
            /** @description Of rows and totals the greatest change since then, by the larger of both: 0 to 1. */
            moved: number | null;
            number: number;
            rowCount: number;
            /** @description What the group had in the run of the period before. */
            since: {
                bytes: number;
                /** @description The total that moved most; null for the count of rows. */
                figure: string | null;
                isResized: boolean;
                rows: number;
                totals: {
                    [key: string]: string;
                };
            } | null;
            /** @enum {string} */
            state: "planned" | "made" | "failed";
            /** @description Exact decimals. */
            totals: {
                [key: string]: string;
            };
            /** @description What goes by other ways than mail. */
            ways: {
                /** @enum {string} */
                state: "held" | "queued" | "sending" | "sent" | "refused" | "unsure" | "skipped" | "returned";
                way: string;
            }[];
        };
        Partners: {
            column: string;
            /** @description How many of them the partner has. */
            found: number;
            /** @description Whether each value finds one row only. */
            isUnique: boolean;
            partner: string;
            /** @description Different values of the column. */
            values: number;
        };
        Passkey: {
            /** Format: date-time */
            createdAt: string;
            id: number;
            name: string;
            usedAt: string | null;
        };
        PasskeyOptions: {
            options: {
                [key: string]: unknown;
            };
            state: string;
        };
        PeriodFiles: {
            /**
             * Format: date-time
             * @description When its run was released.
             */
            at: string;
            files: components["schemas"]["MadeFile"][];
            groupKey: string;
            label: string;
            /** @description What became of its message; null where there is none. */
            message: ("held" | "queued" | "sending" | "sent" | "refused" | "unsure" | "skipped" | "returned") | null;
            parcel: number;
            run: string;
        };
        PeriodOfReport: {
            /** @description A run that names no period is for this one. */
            isNext: boolean;
            key: string;
            label: string;
            rows: number;
            /** @description Over all its groups and rows: the one that was released, or is under way. */
            run: {
                id: string;
                releasedAt: string | null;
                state: string;
            } | null;
            /**
             * @description `early` was over before the schedule began; `running` is not over.
             * @enum {string}
             */
            state: "open" | "under way" | "delivered" | "early" | "running";
        };
        Person: {
            address: string | null;
            /** Format: date-time */
            createdAt: string;
            createdBy: string | null;
            /** @description Whether codes of an authenticator are asked for. */
            hasCodes: boolean;
            language: string | null;
            name: string;
            passkeys: number;
            /** @description The office's own provider, for who comes by it. */
            provider: string | null;
            /** @description By role `all`, or the reports it is for. Who may prepare or release may look too, and who may look may ask. */
            roles: {
                ask?: "all" | string[];
                look?: "all" | string[];
                /** @constant */
                operate?: "all";
                prepare?: "all" | string[];
                release?: "all" | string[];
            };
            /**
             * @description `groups`: as their groups at the provider say, at each sign-in anew.
             * @enum {string}
             */
            rolesFrom: "here" | "groups";
            /** @description Sessions that are open. */
            sessions: number;
            shownName: string;
            /** @description When they signed in last. */
            signedInAt: string | null;
            /** @enum {string} */
            state: "invited" | "active" | "off";
            /** @description Tokens that are good. */
            tokens: number;
            zone: string | null;
        };
        PersonSearch: {
            /** @description When the person was erased. */
            before: {
                /** Format: date-time */
                at: string;
                by: string;
                reason: string;
            }[];
            error: string | null;
            /** Format: uuid */
            id: string;
            /** @description Where something stands: as it was found, or as it is after erasing. */
            places: {
                count: number;
                /** @description How many of them go when the person is erased. */
                erasable: number;
                /** @description The first of them. */
                examples: string[];
                /** @description Why others stay. */
                kept: {
                    count: number;
                    why: string;
                }[];
                place: string;
                title: string;
            }[];
            /** @enum {string} */
            state: "looking" | "found" | "erasing" | "erased" | "failed";
            words: string[];
        };
        Preview: {
            /** @description Where it adds to the edition before. */
            appended: {
                added: number;
                replaced: number;
            } | null;
            /** @description How many cells stand otherwise than in the file. */
            changes: {
                column: string;
                count: number;
                kind: string;
            }[];
            columns: components["schemas"]["Column"][];
            /** @description What was decided while reading, and why. */
            decisions: {
                chosen: string;
                corrected: boolean;
                what: string;
                why: string;
            }[];
            /** @description To the edition before. */
            difference: components["schemas"]["Difference"] | null;
            drift: {
                added: string[];
                gone: string[];
                isOtherTable: boolean;
                renamed: {
                    from: string;
                    to: string;
                    why: string;
                }[];
                retyped: {
                    /** @enum {string} */
                    from: "text" | "number" | "date" | "datetime" | "time" | "boolean";
                    name: string;
                    /** @enum {string} */
                    to: "text" | "number" | "date" | "datetime" | "time" | "boolean";
                }[];
            } | null;
            findings: components["schemas"]["Finding"][];
            headerRow: number;
            /** @description Lines of the file with content that are no rows, by reason; the first of each. */
            leftOut: {
                count: number;
                lines: {
                    row: number;
                    text: string;
                }[];
                /** @enum {string} */
                reason: "title" | "header" | "total" | "blank" | "note" | "repeated header" | "outside" | "other table";
            }[];
            /** @enum {string} */
            mode: "replace" | "append";
            preview: {
                rowNumbers: number[];
                /** @description Row by row: dates as 2026-11-02, moments as 2026-11-02T07:30:00, times as 07:30:00. */
                rows: components["schemas"]["Cell"][][];
            };
            /** @description How the bytes were read: kind, sheet, encoding, delimiter. */
            reading: {
                [key: string]: string;
            };
            rowCount: number;
            /** @description Corrections it was read with. */
            rules: components["schemas"]["IntakeRules"];
        };
        /** @description Problem details (RFC 9457). */
        Problem: {
            advice?: string;
            /** @description Stable code of what went wrong; docs/operating.md lists them all. */
            code: string;
            /** @description By which something unforeseen is found in the log. */
            instance?: string;
            status: number;
            title: string;
            type: string;
            /** @description A file, a sheet and cell, a field of a definition, a group. */
            where?: string;
        };
        Profile: {
            blanks: number;
            count: number;
            distinct: number;
            frequent: {
                count: number;
                value: components["schemas"]["Cell"];
            }[];
            histogram: {
                count: number;
                from: components["schemas"]["Cell"];
                to: components["schemas"]["Cell"];
            }[];
            max: components["schemas"]["Cell"];
            min: components["schemas"]["Cell"];
            name: string;
            /** @description Exact decimal. */
            sum: string | null;
            /** @enum {string} */
            type: "text" | "number" | "date" | "datetime" | "time" | "boolean";
            unit?: string;
        };
        Proof: {
            /** @description Files that go to ways out besides mail, by the way's name. */
            carried?: {
                [key: string]: number;
            };
            files: {
                bytes: number;
                empty?: number;
                made: number;
                planned: number;
            };
            groups: number;
            mail?: {
                bytes: number;
                largest: number;
            };
            mayBeReleased: boolean;
            messages: number;
            people: number;
            rows: {
                inGroups: number;
                leftOut: {
                    count: number;
                    reason: string;
                    rowNumbers: number[];
                }[];
                made?: number;
                master: number;
            };
            /** @description Parcels worth opening before the release. */
            sample?: {
                label: string;
                number: number;
                why: string;
            }[];
            totals: {
                agrees: boolean;
                leftOut: string;
                master: string;
                name: string;
                parcels?: string;
            }[];
        };
        Question: {
            /** Format: date-time */
            askedAt: string;
            askedBy: string;
            /**
             * Format: date
             * @description What was today.
             */
            day: string;
            /** @description Number of the edition that was asked. */
            edition: number;
            /** @description What was made of the answer. */
            files: {
                form: string;
                /** @enum {string} */
                kind: "xlsx" | "docx" | "pptx" | "pdf" | "csv" | "tsv" | "txt" | "json" | "jsonl" | "ods" | "html" | "ics" | "vcf";
                /** Format: date-time */
                madeAt: string;
                madeBy: string;
                /** @description Number of the one row it shows. */
                row: number | null;
                sha256: string;
                size: number;
            }[];
            /** @description As people read it. */
            filled: {
                label: string;
                name: string;
                value: string;
            }[];
            found: number;
            id: string;
            /** @description Whether somebody asked who has no sign-in. */
            isColleague: boolean;
            /** @description Rows there were to be found. */
            of: number;
            report: string;
            /** @description As it was asked. */
            values: {
                [key: string]: string | string[] | {
                    from?: string;
                    to?: string;
                };
            };
        };
        Receiver: {
            blindCopies: components["schemas"]["Address"][];
            copies: components["schemas"]["Address"][];
            language: string | null;
            name: string;
            /** @enum {string} */
            role: "to" | "copy" | "blind";
            to: components["schemas"]["Address"][];
            /** @description The rule that names them. */
            why: string | null;
        };
        Recipient: {
            activeFrom: string | null;
            activeUntil: string | null;
            blindCopies: components["schemas"]["Address"][];
            copies: components["schemas"]["Address"][];
            /** @description Only for reports of this dataset. */
            dataset: string | null;
            /** @description Further columns of the list. */
            fields: {
                [key: string]: string;
            };
            /** @description `*` stands for all. */
            group: string;
            language: string | null;
            name: string;
            neverSend: boolean;
            /** @enum {string} */
            role: "to" | "copy" | "blind";
            row: number;
            to: components["schemas"]["Address"][];
        };
        ReleasedRun: {
            againReason: string | null;
            approvals: {
                /** Format: date-time */
                at: string;
                by: string;
                /** @description Of the proof and the messages it was given for. */
                digest: string | null;
                /** @description How many groups it was given for; null for all. */
                groups: number | null;
                /** @description Whether what would go now is what it was given for. */
                stands: boolean;
            }[];
            approvalsWanted: number;
            /** Format: date-time */
            createdAt: string;
            data: string;
            edition: number;
            /** @description What of it was deleted when its time was over, and when. */
            emptied: {
                /** Format: date-time */
                files?: string;
                /** Format: date-time */
                messages?: string;
                /** Format: date-time */
                rows?: string;
            };
            error: {
                advice?: string;
                code: string;
                message: string;
                where?: string;
            } | null;
            /** @description Findings of one kind told as one; all of them at /runs/{id}/findings. */
            findings: components["schemas"]["SummedFinding"][];
            finishedAt: string | null;
            /** @description It is released by itself when no finding stops it. */
            goesOn: boolean;
            id: string;
            /** @enum {string} */
            once: "period" | "edition" | "row" | "hand";
            /** @description What may happen once, as a sentence. */
            onceSentence: string;
            onlyGroups: string[] | null;
            /** @enum {string} */
            outcome: "released" | "approved" | "set" | "taken back";
            /** @description What its release would do, while it is held. */
            outlook: components["schemas"]["Outlook"] | null;
            parcelCount: number;
            paused: boolean;
            period: string;
            periodLabel: string;
            /** @description How it came to its period, where nobody named one. */
            periodSentence: string | null;
            progress: {
                /** @description What goes by other ways than mail: one for each group and way. */
                carried: {
                    held?: number;
                    queued?: number;
                    refused?: number;
                    returned?: number;
                    sending?: number;
                    sent?: number;
                    skipped?: number;
                    unsure?: number;
                };
                messages: {
                    held?: number;
                    queued?: number;
                    refused?: number;
                    returned?: number;
                    sending?: number;
                    sent?: number;
                    skipped?: number;
                    unsure?: number;
                };
                parcels: {
                    failed?: number;
                    made?: number;
                    planned?: number;
                };
            };
            proof: components["schemas"]["Proof"] | null;
            /** @description All messages go to this address only. */
            rehearsalTo: string | null;
            /** @description When it releases itself. */
            releaseAt: string | null;
            releasedAt: string | null;
            releasedBy: string | null;
            report: string;
            reportVersion: number;
            /** @description Rows of its edition that alone are used, where a search chose them. */
            rowsChosen: number | null;
            /** @description The proof in sentences, as far as it is known. */
            sentences: string[];
            /** @description Beside the run of the period before. */
            since: {
                /** @description The first of them. */
                gone: {
                    label: string;
                    rows: number;
                }[];
                goneCount: number;
                /** @description Groups with a figure that became half or double. */
                movedCount: number;
                newCount: number;
                period: string;
                periodLabel: string;
                /** @description Groups whose files have twice or half the size. */
                resizedCount: number;
                run: string;
            } | null;
            startedBy: string;
            /** @enum {string} */
            state: "planning" | "making" | "proving" | "waiting" | "held" | "delivering" | "done" | "stopped" | "failed";
            title: string;
            waitingFor: {
                advice?: string;
                code: string;
                message: string;
                /** @enum {string} */
                state: "planning" | "making" | "proving" | "waiting" | "held" | "delivering" | "done" | "stopped" | "failed";
            } | null;
        };
        Report: {
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            data: string;
            /** @description What it says, with what it leaves out filled in; /report-schema tells the shape. */
            definition: {
                [key: string]: unknown;
            };
            /** @description Its kind of period, if it has one. */
            every: string | null;
            hasMessage: boolean;
            /** @description Whether people ask it; it is not run. */
            isAsked: boolean;
            name: string;
            /** @description The next times it runs by itself; of a single report those of a year. */
            nextTimes: components["schemas"]["ScheduledTime"][];
            /** @description Why this version was saved. */
            note: string | null;
            number: number;
            schedule: {
                at: string;
                /** @description In place of a rule: a day counted in each period. */
                day: {
                    [key: string]: unknown;
                } | null;
                rule: string | null;
                /** @description When it comes due, in words. */
                says: string;
                zone: string;
            } | null;
            /** @description The definition as it was written, YAML or JSON. */
            source: string;
            title: string;
        };
        ReportSummary: {
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            data: string;
            /** @description Its kind of period, if it has one. */
            every: string | null;
            hasMessage: boolean;
            /** @description Whether people ask it; it is not run. */
            isAsked: boolean;
            name: string;
            /** @description The next times it runs by itself; of a single report those of a year. */
            nextTimes: components["schemas"]["ScheduledTime"][];
            number: number;
            schedule: {
                at: string;
                /** @description In place of a rule: a day counted in each period. */
                day: {
                    [key: string]: unknown;
                } | null;
                rule: string | null;
                /** @description When it comes due, in words. */
                says: string;
                zone: string;
            } | null;
            title: string;
        };
        ReportVersion: {
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            note: string | null;
            number: number;
        };
        Rows: {
            columns: components["schemas"]["Column"][];
            next: string | null;
            /** @description Numbers of the rows in their origin. */
            rowNumbers: number[];
            /** @description Row by row: dates as 2026-11-02, moments as 2026-11-02T07:30:00, times as 07:30:00. */
            rows: components["schemas"]["Cell"][][];
            total: number;
        };
        Run: {
            againReason: string | null;
            approvals: {
                /** Format: date-time */
                at: string;
                by: string;
                /** @description Of the proof and the messages it was given for. */
                digest: string | null;
                /** @description How many groups it was given for; null for all. */
                groups: number | null;
                /** @description Whether what would go now is what it was given for. */
                stands: boolean;
            }[];
            approvalsWanted: number;
            /** Format: date-time */
            createdAt: string;
            data: string;
            edition: number;
            /** @description What of it was deleted when its time was over, and when. */
            emptied: {
                /** Format: date-time */
                files?: string;
                /** Format: date-time */
                messages?: string;
                /** Format: date-time */
                rows?: string;
            };
            error: {
                advice?: string;
                code: string;
                message: string;
                where?: string;
            } | null;
            /** @description Findings of one kind told as one; all of them at /runs/{id}/findings. */
            findings: components["schemas"]["SummedFinding"][];
            finishedAt: string | null;
            /** @description It is released by itself when no finding stops it. */
            goesOn: boolean;
            id: string;
            /** @enum {string} */
            once: "period" | "edition" | "row" | "hand";
            /** @description What may happen once, as a sentence. */
            onceSentence: string;
            onlyGroups: string[] | null;
            /** @description What its release would do, while it is held. */
            outlook: components["schemas"]["Outlook"] | null;
            parcelCount: number;
            paused: boolean;
            period: string;
            periodLabel: string;
            /** @description How it came to its period, where nobody named one. */
            periodSentence: string | null;
            progress: {
                /** @description What goes by other ways than mail: one for each group and way. */
                carried: {
                    held?: number;
                    queued?: number;
                    refused?: number;
                    returned?: number;
                    sending?: number;
                    sent?: number;
                    skipped?: number;
                    unsure?: number;
                };
                messages: {
                    held?: number;
                    queued?: number;
                    refused?: number;
                    returned?: number;
                    sending?: number;
                    sent?: number;
                    skipped?: number;
                    unsure?: number;
                };
                parcels: {
                    failed?: number;
                    made?: number;
                    planned?: number;
                };
            };
            proof: components["schemas"]["Proof"] | null;
            /** @description All messages go to this address only. */
            rehearsalTo: string | null;
            /** @description When it releases itself. */
            releaseAt: string | null;
            releasedAt: string | null;
            releasedBy: string | null;
            report: string;
            reportVersion: number;
            /** @description Rows of its edition that alone are used, where a search chose them. */
            rowsChosen: number | null;
            /** @description The proof in sentences, as far as it is known. */
            sentences: string[];
            /** @description Beside the run of the period before. */
            since: {
                /** @description The first of them. */
                gone: {
                    label: string;
                    rows: number;
                }[];
                goneCount: number;
                /** @description Groups with a figure that became half or double. */
                movedCount: number;
                newCount: number;
                period: string;
                periodLabel: string;
                /** @description Groups whose files have twice or half the size. */
                resizedCount: number;
                run: string;
            } | null;
            startedBy: string;
            /** @enum {string} */
            state: "planning" | "making" | "proving" | "waiting" | "held" | "delivering" | "done" | "stopped" | "failed";
            title: string;
            waitingFor: {
                advice?: string;
                code: string;
                message: string;
                /** @enum {string} */
                state: "planning" | "making" | "proving" | "waiting" | "held" | "delivering" | "done" | "stopped" | "failed";
            } | null;
        };
        RunSummary: {
            /** Format: date-time */
            createdAt: string;
            data: string;
            edition: number;
            error: {
                advice?: string;
                code: string;
                message: string;
                where?: string;
            } | null;
            finishedAt: string | null;
            /** @description It is released by itself when no finding stops it. */
            goesOn: boolean;
            id: string;
            parcelCount: number;
            paused: boolean;
            period: string;
            periodLabel: string;
            progress: {
                /** @description What goes by other ways than mail: one for each group and way. */
                carried: {
                    held?: number;
                    queued?: number;
                    refused?: number;
                    returned?: number;
                    sending?: number;
                    sent?: number;
                    skipped?: number;
                    unsure?: number;
                };
                messages: {
                    held?: number;
                    queued?: number;
                    refused?: number;
                    returned?: number;
                    sending?: number;
                    sent?: number;
                    skipped?: number;
                    unsure?: number;
                };
                parcels: {
                    failed?: number;
                    made?: number;
                    planned?: number;
                };
            };
            /** @description All messages go to this address only. */
            rehearsalTo: string | null;
            /** @description When it releases itself. */
            releaseAt: string | null;
            releasedAt: string | null;
            releasedBy: string | null;
            report: string;
            startedBy: string;
            /** @enum {string} */
            state: "planning" | "making" | "proving" | "waiting" | "held" | "delivering" | "done" | "stopped" | "failed";
            title: string;
            waitingFor: {
                advice?: string;
                code: string;
                message: string;
                /** @enum {string} */
                state: "planning" | "making" | "proving" | "waiting" | "held" | "delivering" | "done" | "stopped" | "failed";
            } | null;
        };
        ScheduledTime: {
            /** Format: date-time */
            at: string;
            /** @description The day off that it was moved from. */
            movedFrom: {
                day: string;
                /** @description What the day off is called. */
                name: string | null;
            } | null;
        };
        SearchAnswer: {
            found: {
                /** @enum {string} */
                kind: "report" | "dataset" | "template" | "person" | "group" | "file" | "run";
                /** @description Its own: a report's, dataset's, template's or person's name; a run's id. */
                name: string;
                /** @description Of a group or file: the number of its parcel in the run. */
                parcel: number | null;
                title: string;
                /** @description What tells it apart. */
                what: string;
            }[];
        };
        Self: {
            address: string | null;
            language: string | null;
            /** @description Whether nothing may be done before a second factor was added. */
            mustAddFactor: boolean;
            name: string;
            /** @description What the caller may do: of a token, what its person may do too. */
            roles: {
                ask?: "all" | string[];
                look?: "all" | string[];
                /** @constant */
                operate?: "all";
                prepare?: "all" | string[];
                release?: "all" | string[];
            };
            shownName: string;
            zone: string | null;
        };
        Sender: {
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            form: ("hex" | "base64") | null;
            header: string | null;
            name: string;
            perMinute: number;
            usedAt: string | null;
            /** @enum {string} */
            way: "token" | "signature";
        };
        SignInSession: {
            /** @description The browser, as it calls itself. */
            agent: string | null;
            /** Format: date-time */
            createdAt: string;
            expiresAt: string | null;
            /** @description The address it was opened from. */
            from: string | null;
            id: number;
            /** @description Whether it is the one that asks. */
            isThis: boolean;
            usedAt: string | null;
            /** @description By what it was opened. */
            way: ("password" | "code" | "passkey" | "provider") | null;
        };
        Step: {
            columnsAdded: string[];
            columnsDropped: string[];
            findings: components["schemas"]["Finding"][];
            kind: string;
            leftOut: {
                count: number;
                reason: string;
                rowNumbers: number[];
            }[];
            made: number;
            rowsIn: number;
            rowsOut: number;
            what: string;
        };
        SummedFinding: {
            advice: string;
            /** @description Where to look in the table: a column, and the first of the rows by their number in the origin. */
            cells?: {
                column?: string;
                rows: number[];
            };
            code: string;
            /** @description How many cells, rows or groups it concerns. */
            count?: number;
            /** @enum {string} */
            severity: "stop" | "warn" | "note";
            /** @description How many findings of this kind there are; the first of them is told. */
            times: number;
            what: string;
            where: string;
        };
        TakenRecord: {
            /** @description Number of the edition that keeps it: below zero, of its own kind. */
            edition: number;
            /** @description Whether it came for the first time. */
            isNew: boolean;
            /** @description What tells the record from others. */
            key: string;
            /** @description The run that was made of it. */
            run: string;
        };
        Template: {
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            name: string;
            number: number;
            sha256: string;
            size: number;
        };
        TemplatePlace: {
            /** @description Of a table. */
            headings: string[];
            /** @enum {string} */
            kind: "table" | "area" | "cell" | "sheet" | "bookmark";
            /** @description As a definition names it; a cell with its sheet, as in Summary!B2. */
            name: string;
            where: string;
        };
        TemplateUsed: {
            /** Format: date-time */
            createdAt: string;
            createdBy: string;
            marks: string[];
            name: string;
            number: number;
            sha256: string;
            size: number;
            uses: {
                file: string;
                report: string;
                title: string;
            }[];
        };
        TickedRows: {
            numbers: number[];
        };
        Token: {
            /** Format: date-time */
            createdAt: string;
            expiresAt: string | null;
            id: number;
            name: string;
            perMinute: number | null;
            person: string;
            /** @description What it may do at most; null for all that its person may. */
            roles: {
                ask?: "all" | string[];
                look?: "all" | string[];
                /** @constant */
                operate?: "all";
                prepare?: "all" | string[];
                release?: "all" | string[];
            } | null;
            usedAt: string | null;
            usedFrom: string | null;
        };
        ToldToken: {
            /** @description Told once, and kept as a digest. */
            secret: string;
            token: components["schemas"]["Token"];
        };
        TrailEntry: {
            /** Format: date-time */
            at: string;
            /** @description What it was before and after, and what else belongs to it. */
            facts: {
                [key: string]: unknown;
            };
            /** @description The address it was called from; null for what the service did by itself. */
            from: string | null;
            /** @description Of this entry and the hash of the one before: SHA-256. */
            hash: string;
            id: string;
            /** @description Whether it named somebody who was erased since; the digest is of what it told. */
            isErased: boolean;
            subject: string;
            what: string;
            who: string;
        };
        Trial: {
            columns: components["schemas"]["Column"][];
            files: {
                /** @description About how many bytes it adds to a message. */
                attachedSize: number;
                /** @enum {string} */
                kind: "xlsx" | "docx" | "pptx" | "pdf" | "csv" | "tsv" | "txt" | "json" | "jsonl" | "ods" | "html" | "ics" | "vcf";
                pages?: number;
                size: number;
            }[];
            findings: components["schemas"]["Finding"][];
            group: string;
            groups: components["schemas"]["TriedGroup"][];
            /** @description Names its files at /made. */
            id: string;
            period: string | null;
            rowNumbers: number[];
            /** @description Row by row: dates as 2026-11-02, moments as 2026-11-02T07:30:00, times as 07:30:00. */
            rows: components["schemas"]["Cell"][][];
        };
        TriedGroup: {
            key: string;
            label: string;
            rows: number;
        };
        TriedMessage: {
            group: string;
            groups: components["schemas"]["TriedGroup"][];
            messages: {
                html: string;
                language: string;
                people: string[];
                subject: string;
                text: string;
            }[];
            period: string | null;
        };
        Upload: {
            file: string;
            size: number;
            upload: string;
        };
        Verification: {
            checked: number;
            error: string | null;
            faults: {
                sha256: string;
                uses: string[];
                /** @enum {string} */
                what: "damaged" | "missing";
            }[];
            /** @description Files that nothing refers to; they are taken away when they are old enough. */
            nobodys: number;
            /** Format: date-time */
            startedAt: string;
            /** @enum {string} */
            state: "running" | "done" | "failed";
            /** @description Files that are there or should be. */
            total: number;
            /** @description The trail, once it was gone through. */
            trail: {
                /** @description The first entry that is not what was written. */
                brokenAt: string | null;
                entries: number;
                /** @description Entries that name nobody any more, each told by an entry of its own. */
                erased: number;
                /** @description Of the last entry, which stands for all before it. */
                head: string | null;
            } | null;
            whole: number;
        };
        Watcher: {
            /** @description An address of mail, or one that is called by POST. */
            address: string;
            isSigned: boolean;
            kinds: ("waits-for-release" | "run-stopped" | "run-failed" | "refused" | "nothing-came" | "nothing-to-send" | "schedule-missed" | "schedule-failed" | "halted")[];
            /**
             * @description When a summary goes out each day; at once if null.
             * @default null
             */
            morning: string | null;
            name: string;
            /**
             * @description Only of these reports; of all if null.
             * @default null
             */
            reports: string[] | null;
            /** @enum {string} */
            way: "mail" | "callback";
            /**
             * @description Time zone of that time.
             * @default UTC
             */
            zone: string;
        };
        WayOut: {
            /** @description Whether it is being left alone now. */
            isResting: boolean;
            name: string;
            paused: boolean;
            /** @description Where it leads, in words. */
            place: string;
            /** @description Reports whose files go there. */
            reports: string[];
            restUntil: string | null;
            restWhy: string | null;
            /** @description Secrets that are kept. */
            secrets: ("password" | "privateKey" | "passphrase" | "token")[];
            sending: number;
            settings: components["schemas"]["WayOutSettings"];
            waiting: number;
        };
        WayOutSettings: {
            address?: string;
            authority?: string;
            connections: number;
            firstPause: number;
            folder?: string;
            headers?: {
                [key: string]: string;
            };
            host?: string;
            hostKey?: string;
            /** @enum {string} */
            kind: "folder" | "web-dav" | "sftp" | "http";
            /** @enum {string} */
            method?: "PUT" | "POST";
            patienceHours: number;
            perMinute: number;
            port?: number;
            user?: string;
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
    listArrivals: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                dataset?: string;
                /** @description Most items of one answer. */
                limit?: number;
                outcome?: "loaded" | "refused";
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Arrival"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    readCalendarFile: {
        parameters: {
            query: {
                /** @description Name of the file. */
                file: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CalendarFile"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showCalendarYear: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                year: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description How fiscal years, quarters and months fall. */
                    fiscal?: {
                        /** @description The month a fiscal year begins with, 1 to 12. */
                        begins: number;
                        /** @default {} */
                        labels?: {
                            /**
                             * @description How a fiscal month is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year} M{number}
                             */
                            month?: string;
                            /**
                             * @description How a fiscal quarter is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year} Q{number}
                             */
                            quarter?: string;
                            /**
                             * @description How a fiscal year is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year}
                             */
                            year?: string;
                        };
                        /**
                         * @description Whether a fiscal year is called after the year it begins or ends in.
                         * @default end
                         * @enum {string}
                         */
                        named?: "begin" | "end";
                    } | {
                        /**
                         * @description The weekday a fiscal year ends on.
                         * @enum {string}
                         */
                        ends: "MO" | "TU" | "WE" | "TH" | "FR" | "SA" | "SU";
                        /** @default {} */
                        labels?: {
                            /**
                             * @description How a fiscal month is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year} M{number}
                             */
                            month?: string;
                            /**
                             * @description How a fiscal quarter is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year} Q{number}
                             */
                            quarter?: string;
                            /**
                             * @description How a fiscal year is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year}
                             */
                            year?: string;
                        };
                        /** @description The month it ends in, 1 to 12. */
                        month: number;
                        /**
                         * @description Whether a fiscal year is called after the year it begins or ends in.
                         * @default end
                         * @enum {string}
                         */
                        named?: "begin" | "end";
                        /**
                         * @description Whether that is the last such day of the month, or the one nearest to the month's end.
                         * @enum {string}
                         */
                        near: "last" | "nearest";
                        /**
                         * @description Weeks of the three months of a quarter.
                         * @enum {string}
                         */
                        weeks: "4-4-5" | "4-5-4" | "5-4-4";
                    };
                    /**
                     * @description Of these the weekdays that are worked for half of the day.
                     * @default []
                     */
                    half?: ("MO" | "TU" | "WE" | "TH" | "FR" | "SA" | "SU")[];
                    /**
                     * @description Days off, and days of which half is worked.
                     * @default []
                     */
                    off?: {
                        /** @description A day, such as 2026-04-03, or a day of each year, such as 12-25. */
                        day: string;
                        /**
                         * @description Whether half of it is worked.
                         * @default false
                         */
                        half?: boolean;
                        /** @description What it is called. */
                        name?: string;
                        /** @description The last day of several. */
                        until?: string;
                    }[];
                    /**
                     * @description Periods of one's own, in order.
                     * @default []
                     */
                    periods?: {
                        from: string;
                        /** @description What it is named by in commands; its first day if left out. */
                        key?: string;
                        /** @description What people call it; the key if left out. */
                        label?: string;
                        to: string;
                    }[];
                    /** @description As people call it. */
                    title: string;
                    /**
                     * @description Weekdays that are worked.
                     * @default [
                     *       "MO",
                     *       "TU",
                     *       "WE",
                     *       "TH",
                     *       "FR"
                     *     ]
                     */
                    working?: ("MO" | "TU" | "WE" | "TH" | "FR" | "SA" | "SU")[];
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CalendarYear"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listCalendars: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["CalendarSummary"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showCalendar: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Calendar"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveCalendar: {
        parameters: {
            query?: never;
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description How fiscal years, quarters and months fall. */
                    fiscal?: {
                        /** @description The month a fiscal year begins with, 1 to 12. */
                        begins: number;
                        /** @default {} */
                        labels?: {
                            /**
                             * @description How a fiscal month is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year} M{number}
                             */
                            month?: string;
                            /**
                             * @description How a fiscal quarter is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year} Q{number}
                             */
                            quarter?: string;
                            /**
                             * @description How a fiscal year is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year}
                             */
                            year?: string;
                        };
                        /**
                         * @description Whether a fiscal year is called after the year it begins or ends in.
                         * @default end
                         * @enum {string}
                         */
                        named?: "begin" | "end";
                    } | {
                        /**
                         * @description The weekday a fiscal year ends on.
                         * @enum {string}
                         */
                        ends: "MO" | "TU" | "WE" | "TH" | "FR" | "SA" | "SU";
                        /** @default {} */
                        labels?: {
                            /**
                             * @description How a fiscal month is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year} M{number}
                             */
                            month?: string;
                            /**
                             * @description How a fiscal quarter is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year} Q{number}
                             */
                            quarter?: string;
                            /**
                             * @description How a fiscal year is called. Marks are {year}, {shortYear} and {number}.
                             * @default FY {year}
                             */
                            year?: string;
                        };
                        /** @description The month it ends in, 1 to 12. */
                        month: number;
                        /**
                         * @description Whether a fiscal year is called after the year it begins or ends in.
                         * @default end
                         * @enum {string}
                         */
                        named?: "begin" | "end";
                        /**
                         * @description Whether that is the last such day of the month, or the one nearest to the month's end.
                         * @enum {string}
                         */
                        near: "last" | "nearest";
                        /**
                         * @description Weeks of the three months of a quarter.
                         * @enum {string}
                         */
                        weeks: "4-4-5" | "4-5-4" | "5-4-4";
                    };
                    /**
                     * @description Of these the weekdays that are worked for half of the day.
                     * @default []
                     */
                    half?: ("MO" | "TU" | "WE" | "TH" | "FR" | "SA" | "SU")[];
                    /**
                     * @description Days off, and days of which half is worked.
                     * @default []
                     */
                    off?: {
                        /** @description A day, such as 2026-04-03, or a day of each year, such as 12-25. */
                        day: string;
                        /**
                         * @description Whether half of it is worked.
                         * @default false
                         */
                        half?: boolean;
                        /** @description What it is called. */
                        name?: string;
                        /** @description The last day of several. */
                        until?: string;
                    }[];
                    /**
                     * @description Periods of one's own, in order.
                     * @default []
                     */
                    periods?: {
                        from: string;
                        /** @description What it is named by in commands; its first day if left out. */
                        key?: string;
                        /** @description What people call it; the key if left out. */
                        label?: string;
                        to: string;
                    }[];
                    /** @description As people call it. */
                    title: string;
                    /**
                     * @description Weekdays that are worked.
                     * @default [
                     *       "MO",
                     *       "TU",
                     *       "WE",
                     *       "TH",
                     *       "FR"
                     *     ]
                     */
                    working?: ("MO" | "TU" | "WE" | "TH" | "FR" | "SA" | "SU")[];
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Calendar"];
                };
            };
            /** @description Made */
            201: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Calendar"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    deleteCalendar: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @constant */
                        ok: true;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listColleagues: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Colleague"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveColleague: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                colleague: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @default null */
                    reports?: string[] | null;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @description What they open; it is not shown again. */
                        address: string;
                        /** Format: date-time */
                        createdAt: string;
                        createdBy: string;
                        name: string;
                        /** @description What may be asked; everything that can be, without any. */
                        reports: string[] | null;
                        usedAt: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    deleteColleague: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                colleague: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @constant */
                        ok: true;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listDatasets: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Part of a name. */
                search?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Dataset"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showDataset: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Dataset"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listEditions: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["EditionSummary"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    loadFile: {
        parameters: {
            query: {
                /** @description Name of the file, shown as the edition's origin. */
                file: string;
                headerRow?: number;
                /** @description Key columns, with commas between. */
                key?: string;
                /** @description Whether the file replaces what the dataset shows, or adds to it by the key. */
                mode?: "replace" | "append";
                /** @description Corrections as JSON, for this file alone. */
                rules?: string;
                sheet?: string;
                table?: string;
            };
            header?: {
                /** @description Any text of one's own: the same call with the same key is done once, and answered alike, for a day. */
                "Idempotency-Key"?: string;
            };
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Edition"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showEdition: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Edition"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listChangedCells: {
        parameters: {
            query?: {
                column?: string;
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                kind?: "blanks" | "read-as" | "unreadable" | "ambiguous" | "error";
                /** @description Most rows of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: {
                            column: string;
                            kind: string;
                            raw: string;
                            row: number;
                        }[];
                        next: string | null;
                        total: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    compareEditions: {
        parameters: {
            query?: {
                /** @description The other edition; the one before if not given. */
                with?: number;
            };
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EditionDifference"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadEdition: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listGroups: {
        parameters: {
            query?: {
                /** @description Columns, with commas between; those a report splits by if not given. */
                by?: string;
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Only those with somebody in the recipient list, or without. */
                hasRecipients?: boolean;
                /** @description Only those the edition before had not, or only the others. */
                isNew?: boolean;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Part of a group's name. */
                search?: string;
            };
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @description Rows without a group. */
                        blank: {
                            count: number;
                            rowNumbers: number[];
                        };
                        by: string[];
                        findings: components["schemas"]["Finding"][];
                        /** @description Groups of the edition before that have no rows any more. */
                        gone: {
                            count: number;
                            /** @description The first of them. */
                            labels: string[];
                        };
                        items: components["schemas"]["Group"][];
                        near: {
                            from: string;
                            to: string;
                            why: string;
                        }[];
                        next: string | null;
                        total: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    lookAtRows: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description `next` of the answer before. */
                    cursor?: string;
                    /** @description Begin at this row of those found, for a grid that jumps. */
                    first?: number;
                    /** @default 100 */
                    limit?: number;
                    /**
                     * @default {
                     *       "search": "",
                     *       "filters": [],
                     *       "sort": []
                     *     }
                     */
                    query?: {
                        /** @default [] */
                        filters?: {
                            column: string;
                            /**
                             * @description How the cell is compared; texts without regard to capitals and blanks.
                             * @enum {string}
                             */
                            is: "equal" | "not-equal" | "containing" | "beginning" | "at-least" | "at-most" | "blank" | "filled";
                            /** @default  */
                            value?: string;
                        }[];
                        /**
                         * @description Text in any column, or a number or date that is equal.
                         * @default
                         */
                        search?: string;
                        /**
                         * @description Columns; a leading `-` sorts downwards. Blanks come last.
                         * @default []
                         */
                        sort?: string[];
                    };
                    /** @description Look at what this report's preparation makes of the edition. */
                    report?: string;
                    /** @description Begin at this row of the origin, if it is among them. */
                    rowNumber?: number;
                    /** @description Up to and with this step, counted from 0; all if not given. */
                    step?: number;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Look"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    profileColumns: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    columns: string[];
                    /**
                     * @default {
                     *       "search": "",
                     *       "filters": [],
                     *       "sort": []
                     *     }
                     */
                    query?: {
                        /** @default [] */
                        filters?: {
                            column: string;
                            /**
                             * @description How the cell is compared; texts without regard to capitals and blanks.
                             * @enum {string}
                             */
                            is: "equal" | "not-equal" | "containing" | "beginning" | "at-least" | "at-most" | "blank" | "filled";
                            /** @default  */
                            value?: string;
                        }[];
                        /**
                         * @description Text in any column, or a number or date that is equal.
                         * @default
                         */
                        search?: string;
                        /**
                         * @description Columns; a leading `-` sorts downwards. Blanks come last.
                         * @default []
                         */
                        sort?: string[];
                    };
                    /** @description Look at what this report's preparation makes of the edition. */
                    report?: string;
                    /** @description Up to and with this step, counted from 0; all if not given. */
                    step?: number;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        columns: components["schemas"]["Profile"][];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listRows: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most rows of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Rows"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    emptyEdition: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Edition"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    loadUpload: {
        parameters: {
            query?: never;
            header?: {
                /** @description Any text of one's own: the same call with the same key is done once, and answered alike, for a day. */
                "Idempotency-Key"?: string;
            };
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Name of the file, shown as the edition's origin. */
                    file: string;
                    /**
                     * @description Keep the corrections for later editions.
                     * @default false
                     */
                    keep?: boolean;
                    /** @description Columns that tell rows apart. */
                    key?: string[];
                    /**
                     * @description Whether the file replaces what the dataset shows, or adds to it by the key.
                     * @enum {string}
                     */
                    mode?: "replace" | "append";
                    /** @description Of a workbook that asks for one. */
                    password?: string;
                    rules?: components["schemas"]["IntakeRules"];
                    /** @description What an upload gave. */
                    upload: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Edition"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listPartners: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
                other: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        partners: components["schemas"]["Partners"][];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    previewEdition: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Name of the file, shown as the edition's origin. */
                    file: string;
                    /** @description Columns that tell rows apart. */
                    key?: string[];
                    /**
                     * @description Whether the file replaces what the dataset shows, or adds to it by the key.
                     * @enum {string}
                     */
                    mode?: "replace" | "append";
                    /** @description Of a workbook that asks for one. */
                    password?: string;
                    rules?: components["schemas"]["IntakeRules"];
                    /** @description What an upload gave. */
                    upload: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Preview"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showDatasetSettings: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DatasetSettings"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    changeDatasetSettings: {
        parameters: {
            query?: never;
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Spellings that count as another one's group. */
                    aliases?: {
                        column: string;
                        from: string;
                        to: string;
                    }[];
                    keepMonths?: number | null;
                    /** @description Columns that tell rows apart. */
                    key?: string[];
                    /** @description Address that takes files for it by mail; null for none. */
                    mailbox?: {
                        name: string;
                        /** @description Addresses, or domains as @lifts.example. */
                        senders: string[];
                    } | null;
                    /**
                     * @description Whether the file replaces what the dataset shows, or adds to it by the key.
                     * @enum {string}
                     */
                    mode?: "replace" | "append";
                    /** @description Kept encrypted; null forgets it. It is never given back. */
                    password?: string | null;
                    /** @description Corrections, kept for later editions. */
                    rules?: components["schemas"]["IntakeRules"];
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DatasetSettings"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    takeDeliveryReport: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @description The message it is about; null where none of ours is found. */
                        message: string | null;
                        recipients: {
                            /** @enum {string} */
                            action: "failed" | "delayed" | "delivered" | "relayed" | "expanded";
                            address: string;
                            status: string;
                            words: string;
                        }[];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    lookAtDraft: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Conditions to be counted. */
                    conditions?: string[];
                    /** @description The definition as it is written now, YAML or JSON. */
                    definition: string;
                    /** @description Of its dataset; the newest if not given. */
                    edition?: number;
                    /** @description Key or label; one of middling size if not given. */
                    group?: string;
                    /** @description The last that is over and has rows if not given. */
                    period?: string;
                    /** @description Part of the names of the groups that are listed. */
                    search?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DraftLook"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    tryDraft: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description The definition as it is written now, YAML or JSON. */
                    definition: string;
                    /** @description Of its dataset; the newest if not given. */
                    edition?: number;
                    /** @description Name of the file in the definition. */
                    file: string;
                    /** @description Key or label; one of middling size if not given. */
                    group?: string;
                    period?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Trial"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listEnquiries: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["EnquirySummary"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showEnquiry: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Enquiry"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    ask: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /**
                     * @description Rows of this answer.
                     * @default 100
                     */
                    limit?: number;
                    /**
                     * @description By field; what is left out asks nothing.
                     * @default {}
                     */
                    values?: {
                        [key: string]: string | string[] | {
                            from?: string;
                            to?: string;
                        };
                    };
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Answer"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadMadeFile: {
        parameters: {
            query?: {
                /** @description Shown in the page rather than saved. */
                show?: boolean;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listFonts: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Font"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    addFont: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                file: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        bold: boolean;
                        family: string;
                        italic: boolean;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    decideFoundMessage: {
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
                "application/json": {
                    /** @enum {string} */
                    as: "arrived" | "due";
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @enum {string} */
                        as: "arrived" | "due";
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listHalts: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Only those that are not over, or that are. */
                open?: boolean;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Halt"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    haltSending: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    reason: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        id: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listFoundMessages: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Only those that wait for a person's word, or the others. */
                open?: boolean;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["FoundMessage"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    goOnSending: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    reason: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ended: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showHealth: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ok: boolean;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    hostKeyOf: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    host: string;
                    /** @default 22 */
                    port?: number;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        hostKey: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listIdentities: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Identity"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showIdentity: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Identity"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveIdentity: {
        parameters: {
            query?: never;
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @default {} */
                    secret?: {
                        /** @description Private key as PEM. */
                        dkimKey?: string;
                        password?: string;
                    };
                    settings: {
                        /** @description Certificate authority of one's own, as PEM. */
                        authority?: string;
                        /**
                         * @description Connections held open to the server at once.
                         * @default 4
                         */
                        connections?: number;
                        /** @description Signature of the domain (RFC 6376); its private key is kept apart. */
                        dkim?: {
                            domain: string;
                            selector: string;
                        };
                        /** @description Domains messages may go to, with those below them; all, if none is named. */
                        domains?: string[];
                        /**
                         * @description Seconds before the first new try; each further pause is twice as long, up to half an hour.
                         * @default 15
                         */
                        firstPause?: number;
                        /** @description Whose name messages bear. */
                        from: string;
                        /** @description Mail server; without it the one of the settings, or the letterbox. */
                        host?: string;
                        /**
                         * @description Largest message the server takes, in bytes.
                         * @default 25000000
                         */
                        maxBytes?: number;
                        /**
                         * @description How long a message that is refused for now is tried again.
                         * @default 24
                         */
                        patienceHours?: number;
                        /** @description Messages in any sixty minutes. */
                        perHour?: number;
                        /**
                         * @description Pace: messages a minute.
                         * @default 600
                         */
                        perMinute?: number;
                        /** @default 587 */
                        port?: number;
                        /**
                         * @description How the line is encrypted; with tls and starttls the server's certificate is checked.
                         * @default starttls
                         * @enum {string}
                         */
                        security?: "tls" | "starttls" | "none";
                        /**
                         * @description Other addresses that a report may send as.
                         * @default []
                         */
                        senders?: string[];
                        /**
                         * @description What is done with a larger one: stop the release, zip the attachments, or put links in place of them.
                         * @default stop
                         * @enum {string}
                         */
                        tooLarge?: "stop" | "zip" | "link";
                        /** @description Sign-in at the server. */
                        user?: string;
                    };
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Identity"];
                };
            };
            /** @description Made */
            201: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Identity"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    pauseIdentity: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Identity"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    resumeIdentity: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Identity"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showInvitation: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                secret: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        name: string;
                        shownName: string;
                        /** Format: date-time */
                        until: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    acceptInvitation: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                secret: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    password: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        isIn: boolean;
                        name: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listLetterboxRules: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["LetterboxRule"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    addLetterboxRule: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /**
                     * @description refuse, defer or full: an answer to an address (550, 451, 452). slow: waits before it answers a sender; slow-answer: after it has kept the message. throttle: 421 to whoever sends more than a few a second. break-before, break-within, break-after: the connection ends before, in the middle of, and after the data, which is kept then; lose: after the data, which is not kept. bounce: takes it, and sends a report of non-delivery. refuse-data, defer-data: an answer to the data (554, 451).
                     * @enum {string}
                     */
                    does: "refuse" | "defer" | "full" | "slow" | "slow-answer" | "throttle" | "break-before" | "break-within" | "break-after" | "lose" | "bounce" | "refuse-data" | "defer-data";
                    /**
                     * @description Of throttle: how many it takes.
                     * @default 5
                     */
                    perSecond?: number;
                    /** @description Words of the answer. */
                    says?: string;
                    /**
                     * @description Of slow and slow-answer: how long it waits.
                     * @default 2
                     */
                    seconds?: number;
                    /**
                     * @description Only this share of messages, by chance.
                     * @default 1
                     */
                    share?: number;
                    /** @description Only subjects that hold this text; for rules about the data. */
                    subject?: string;
                    /** @description Only so often, then no more. */
                    times?: number;
                    /** @description Only addresses that hold this text. */
                    to?: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LetterboxRule"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showLetterboxRule: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LetterboxRule"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    removeLetterboxRule: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        id: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listLetters: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Part of a subject or an address. */
                search?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["LetterSummary"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showLetter: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Letter"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadLetterAttachment: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                index: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadLetter: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "message/rfc822": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listArchived: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                kind: "reports" | "datasets" | "templates";
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Archived"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showKept: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                kind: "reports" | "datasets" | "templates";
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Kept"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    deleteKept: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                kind: "reports" | "datasets" | "templates";
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        keptForRuns: boolean;
                        name: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    archiveKept: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                kind: "reports" | "datasets" | "templates";
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Kept"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    bringBackKept: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                kind: "reports" | "datasets" | "templates";
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Kept"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    copyKept: {
        parameters: {
            query?: never;
            header?: {
                /** @description Any text of one's own: the same call with the same key is done once, and answered alike, for a day. */
                "Idempotency-Key"?: string;
            };
            path: {
                kind: "reports" | "datasets" | "templates";
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Of a report. */
                    title?: string;
                    to: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Kept"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    renameKept: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                kind: "reports" | "datasets" | "templates";
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Of a report. */
                    title?: string;
                    to: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Kept"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadMade: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                kind: "xlsx" | "docx" | "pptx" | "pdf" | "csv" | "tsv" | "txt" | "json" | "jsonl" | "ods" | "html" | "ics" | "vcf" | "zip";
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showMessage: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Message"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    sendAgain: {
        parameters: {
            query?: never;
            header?: {
                /** @description Any text of one's own: the same call with the same key is done once, and answered alike, for a day. */
                "Idempotency-Key"?: string;
            };
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /**
                     * @description Addresses that it did not reach, and those it goes to instead.
                     * @default []
                     */
                    corrections?: {
                        address: string;
                        to: string;
                    }[];
                    /**
                     * @description Whether the shared recipient list is corrected as well.
                     * @default false
                     */
                    inList?: boolean;
                    reason: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @enum {string} */
                        as: "first" | "repeat";
                        /** @description Entries of the list that were corrected. */
                        entries: number;
                        id: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    decideMessage: {
        parameters: {
            query?: never;
            header?: {
                /** @description Any text of one's own: the same call with the same key is done once, and answered alike, for a day. */
                "Idempotency-Key"?: string;
            };
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @enum {string} */
                    as: "arrived" | "again";
                    reason?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @enum {string} */
                        state: "held" | "queued" | "sending" | "sent" | "refused" | "unsure" | "skipped" | "returned";
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadMessage: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "message/rfc822": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listNotices: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                kind?: "waits-for-release" | "run-stopped" | "run-failed" | "refused" | "nothing-came" | "nothing-to-send" | "schedule-missed" | "schedule-failed" | "halted";
                /** @description Most items of one answer. */
                limit?: number;
                report?: string;
                /** @description First day. */
                since?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Notice"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showOperations: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Operations"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listOutbox: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Part of an attached file's name. */
                file?: string;
                /** @description First day on which it was touched last. */
                from?: string;
                /** @description Part of a group's name. */
                group?: string;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Such as 2026-10. */
                period?: string;
                /** @description Part of a name or address. */
                person?: string;
                report?: string;
                run?: string;
                state?: "held" | "queued" | "sending" | "sent" | "refused" | "unsure" | "skipped" | "returned";
                /** @description Last such day. */
                until?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["OutboxEntry"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showOverview: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Overview"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listPeople: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                search?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Person"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    invitePerson: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    address?: string | null;
                    /**
                     * @description How long the link works.
                     * @default 7
                     */
                    days?: number;
                    language?: string | null;
                    /**
                     * @description Whether the link goes to the address by mail; it is told all the same.
                     * @default false
                     */
                    mail?: boolean;
                    name: string;
                    /** @description By role `all`, or the reports it is for. Who may prepare or release may look too, and who may look may ask. */
                    roles: {
                        ask?: "all" | string[];
                        look?: "all" | string[];
                        /** @constant */
                        operate?: "all";
                        prepare?: "all" | string[];
                        release?: "all" | string[];
                    };
                    shownName?: string;
                    zone?: string | null;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Invitation"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showPerson: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Person"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    changePerson: {
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
                "application/json": {
                    address?: string | null;
                    language?: string | null;
                    /** @description By role `all`, or the reports it is for. Who may prepare or release may look too, and who may look may ask. */
                    roles?: {
                        ask?: "all" | string[];
                        look?: "all" | string[];
                        /** @constant */
                        operate?: "all";
                        prepare?: "all" | string[];
                        release?: "all" | string[];
                    };
                    shownName?: string;
                    zone?: string | null;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Person"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    dropFactorsOf: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Person"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    inviteAgain: {
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
                "application/json": {
                    /** @default 7 */
                    days?: number;
                    /** @default false */
                    mail?: boolean;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Invitation"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    switchOff: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Person"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    switchOn: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Person"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    endSessionsOf: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ended: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    searchPerson: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Addresses and names of one person; the first stands for all. */
                    words: string[];
                };
            };
        };
        responses: {
            /** @description Begun */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PersonSearch"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showPersonSearch: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PersonSearch"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    erasePerson: {
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
                "application/json": {
                    /**
                     * @description Places that stay as they are.
                     * @default []
                     */
                    leave?: string[];
                    /** @description Such as who asked when; the person is not named in it. */
                    reason: string;
                };
            };
        };
        responses: {
            /** @description Begun */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PersonSearch"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    exportPerson: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/zip": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listQuestions: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                report?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Question"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showQuestion: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Begin at this row of those found, from 0. */
                first?: number;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Answer"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadAnswer: {
        parameters: {
            query?: {
                /** @description Of a page: number of the row. */
                row?: number;
            };
            header?: never;
            path: {
                form: string;
                id: string;
                kind: "xlsx" | "docx" | "pptx" | "pdf" | "csv" | "tsv" | "txt" | "json" | "jsonl" | "ods" | "html" | "ics" | "vcf";
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showAnswerRow: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                row: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        cells: components["schemas"]["Cell"][];
                        columns: components["schemas"]["Column"][];
                        rowNumber: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listRecipients: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Only entries for this dataset, and those for all. */
                dataset?: string;
                /** @description Only entries of this group, and those for all. */
                group?: string;
                /** @description Most items of one answer. */
                limit?: number;
                neverSend?: boolean;
                /** @description Part of a group, name, address or further field. */
                search?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Recipient"][];
                        /** @description The list's newest version; null as long as there is none. */
                        list: {
                            /** Format: date-time */
                            createdAt: string;
                            createdBy: string;
                            findings: components["schemas"]["Finding"][];
                            origin: string;
                            version: number;
                        } | null;
                        next: string | null;
                        total: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    importRecipients: {
        parameters: {
            query: {
                /** @description Name of the file: .csv, .xlsx, .ods or .vcf. */
                file: string;
                /** @description replace: the file is the whole list. merge: who is not in the file stays. */
                mode?: "replace" | "merge";
                sheet?: string;
            };
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptList"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    addRecipient: {
        parameters: {
            query?: never;
            header?: {
                /** @description Any text of one's own: the same call with the same key is done once, and answered alike, for a day. */
                "Idempotency-Key"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    activeFrom?: string | "";
                    activeUntil?: string | "";
                    addresses: string;
                    blindCopies?: string;
                    copies?: string;
                    /** @description Only for reports of this dataset. */
                    dataset?: string;
                    /** @default {} */
                    fields?: {
                        [key: string]: string;
                    };
                    /** @description Several are parted by semicolons; * stands for all. */
                    group: string;
                    language?: string;
                    /** @default  */
                    name?: string;
                    /** @default false */
                    neverSend?: boolean;
                    /**
                     * @default to
                     * @enum {string}
                     */
                    role?: "to" | "copy" | "blind";
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptList"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showRecipient: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                row: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        entries: components["schemas"]["Recipient"][];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    changeRecipient: {
        parameters: {
            query?: never;
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path: {
                row: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    activeFrom?: string | "";
                    activeUntil?: string | "";
                    addresses: string;
                    blindCopies?: string;
                    copies?: string;
                    /** @description Only for reports of this dataset. */
                    dataset?: string;
                    /** @default {} */
                    fields?: {
                        [key: string]: string;
                    };
                    /** @description Several are parted by semicolons; * stands for all. */
                    group: string;
                    language?: string;
                    /** @default  */
                    name?: string;
                    /** @default false */
                    neverSend?: boolean;
                    /**
                     * @default to
                     * @enum {string}
                     */
                    role?: "to" | "copy" | "blind";
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptList"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    removeRecipient: {
        parameters: {
            query?: never;
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path: {
                row: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptList"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    exportRecipients: {
        parameters: {
            query?: {
                as?: "csv" | "xlsx" | "vcf";
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listRecipientVersions: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["ListVersion"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    previewRecipients: {
        parameters: {
            query: {
                /** @description Name of the file: .csv, .xlsx, .ods or .vcf. */
                file: string;
                /** @description replace: the file is the whole list. merge: who is not in the file stays. */
                mode?: "replace" | "merge";
                sheet?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ListPreview"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showReportSchema: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JsonSchema"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listReports: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Only those of a dataset. */
                data?: string;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Part of a name or title. */
                search?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["ReportSummary"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showReport: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Report"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveReport: {
        parameters: {
            query?: {
                /** @description Why it is saved. */
                note?: string;
            };
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "text/plain": string;
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Report"];
                };
            };
            /** @description Made */
            201: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Report"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listPeriodFiles: {
        parameters: {
            query: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Such as 2026-10; blank for a report without periods. */
                period: string;
                /** @description Part of a group's name or a file's name. */
                search?: string;
            };
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["PeriodFiles"][];
                        next: string | null;
                        total: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listMatching: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Only groups nobody receives for, or only the others. */
                nobody?: boolean;
                period?: string;
                /** @description Part of a group's name. */
                search?: string;
            };
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["GroupMatching"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showMessageWords: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EditableMessage"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveMessageWords: {
        parameters: {
            query?: never;
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    words: components["schemas"]["MessageWords"];
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        templates: string[];
                        version: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    previewMessage: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    group?: string;
                    period?: string;
                    words: components["schemas"]["MessageWords"];
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TriedMessage"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    takeRecords: {
        parameters: {
            query?: {
                /** @description An address that is told when the run is over, where the report allows it. */
                callback?: string;
            };
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        occasions: components["schemas"]["TakenRecord"][];
                    };
                };
            };
            /** @description Begun */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        occasions: components["schemas"]["TakenRecord"][];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listPeriods: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Of its dataset; the newest if not given. */
                edition?: number;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["PeriodOfReport"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    lookAtPicks: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    edition?: number;
                    /** @description That in which most of the rows lie if not given. */
                    period?: string;
                    /** @description Only these rows of its edition: those that a search finds, or those of these numbers; a run of its own. */
                    rows: {
                        /** @default [] */
                        filters?: {
                            column: string;
                            /**
                             * @description How the cell is compared; texts without regard to capitals and blanks.
                             * @enum {string}
                             */
                            is: "equal" | "not-equal" | "containing" | "beginning" | "at-least" | "at-most" | "blank" | "filled";
                            /** @default  */
                            value?: string;
                        }[];
                        /**
                         * @description Text in any column, or a number or date that is equal.
                         * @default
                         */
                        search?: string;
                        /**
                         * @description Columns; a leading `-` sorts downwards. Blanks come last.
                         * @default []
                         */
                        sort?: string[];
                    } | components["schemas"]["TickedRows"];
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        edition: number;
                        /** @description How many the preparation or the period leaves out. */
                        leftOut: number;
                        period: string | null;
                        picked: number;
                        /** @description The first 500 of them. */
                        rows: {
                            /** @description The day it went out on. */
                            before: string | null;
                            group: string | null;
                            people: string[];
                            rowNumber: number;
                            /** @description Why it is left out. */
                            why: string | null;
                        }[];
                        /** @description How many of them went out before; they are left out, unless there is a reason why not. */
                        sentBefore: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listProspect: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Of its dataset; the newest if not given. */
                edition?: number;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description The last that is over and has rows if not given. */
                period?: string;
                /** @description `some` have not had it yet; `had` all of them; `none` has nobody who receives. */
                says?: "go" | "some" | "had" | "none";
                /** @description Part of a group's name. */
                search?: string;
            };
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        counts: {
                            go: number;
                            groups: number;
                            had: number;
                            none: number;
                            some: number;
                        };
                        /** @description Whether a run waits for a release. */
                        holds: boolean;
                        items: components["schemas"]["GroupProspect"][];
                        leftOut: {
                            count: number;
                            reason: string;
                        }[];
                        /** @description Earlier periods that the files which grow go on without: the run makes up for them. */
                        madeUpFor: string[];
                        next: string | null;
                        /** @description What may happen once, as a sentence. */
                        onceSentence: string;
                        period: string | null;
                        rows: number;
                        /** @description Whether the report has a message; without one its files are made and nothing is sent. */
                        sends: boolean;
                        total: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listSenders: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Sender"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveSender: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
                sender: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /**
                     * @default hex
                     * @enum {string}
                     */
                    form?: "hex" | "base64";
                    /**
                     * @description Of a signature: the header it stands in.
                     * @default X-Signature
                     */
                    header?: string;
                    /** @default 120 */
                    perMinute?: number;
                    /** @description What the sender signs with, where it has its own. */
                    secret?: string;
                    /**
                     * @default token
                     * @enum {string}
                     */
                    way?: "token" | "signature";
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** Format: date-time */
                        createdAt: string;
                        createdBy: string;
                        form: ("hex" | "base64") | null;
                        header: string | null;
                        name: string;
                        perMinute: number;
                        /** @description Token or secret; it is not shown again. */
                        secret: string;
                        usedAt: string | null;
                        /** @enum {string} */
                        way: "token" | "signature";
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    deleteSender: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
                sender: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @constant */
                        ok: true;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listSteps: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Of its dataset; the newest if not given. */
                edition?: number;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Step"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    tryReport: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Name of the file in the report. */
                    file: string;
                    /** @description Key or label; one of middling size if not given. */
                    group?: string;
                    /** @description Such as 2026-10; the last that is over and has rows if not given. */
                    period?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Trial"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listReportVersions: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["ReportVersion"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showReportVersion: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Report"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listRuns: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                period?: string;
                /** @description Only rehearsals, or only the others. */
                rehearsal?: boolean;
                report?: string;
                /** @description Field to sort by; a leading `-` sorts downwards. */
                sort?: "createdAt" | "-createdAt" | "report" | "-report" | "period" | "-period";
                state?: "planning" | "making" | "proving" | "waiting" | "held" | "delivering" | "done" | "stopped" | "failed";
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["RunSummary"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    startRun: {
        parameters: {
            query?: never;
            header?: {
                /** @description Any text of one's own: the same call with the same key is done once, and answered alike, for a day. */
                "Idempotency-Key"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Why groups that were delivered already get theirs again. */
                    again?: string;
                    edition?: number;
                    groups?: string[];
                    /** @description Such as 2026-10; without it the earliest that is over and not delivered. */
                    period?: string;
                    /**
                     * Format: email
                     * @description All messages go to this address only.
                     */
                    rehearsalTo?: string;
                    report: string;
                    /** @description Only these rows of its edition: those that a search finds, or those of these numbers; a run of its own. */
                    rows?: {
                        /** @default [] */
                        filters?: {
                            column: string;
                            /**
                             * @description How the cell is compared; texts without regard to capitals and blanks.
                             * @enum {string}
                             */
                            is: "equal" | "not-equal" | "containing" | "beginning" | "at-least" | "at-most" | "blank" | "filled";
                            /** @default  */
                            value?: string;
                        }[];
                        /**
                         * @description Text in any column, or a number or date that is equal.
                         * @default
                         */
                        search?: string;
                        /**
                         * @description Columns; a leading `-` sorts downwards. Blanks come last.
                         * @default []
                         */
                        sort?: string[];
                    } | components["schemas"]["TickedRows"];
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Run"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showRun: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Run"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    auditRun: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/pdf": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    keepFigures: {
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
                "application/json": {
                    /** @description Dataset of their own; what the report says, or its name with -figures. */
                    dataset?: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        dataset: string;
                        edition: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadRun: {
        parameters: {
            query?: {
                group?: string;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/zip": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listFindings: {
        parameters: {
            query?: {
                code?: string;
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                severity?: "stop" | "warn" | "note";
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Finding"][];
                        next: string | null;
                        total: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    exportToFolder: {
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
                "application/json": {
                    /**
                     * @description Folder under the outgoing one.
                     * @default
                     */
                    folder?: string;
                    groups?: string[];
                    /**
                     * @description A folder for each group in place of the files' own folders.
                     * @default false
                     */
                    perGroup?: boolean;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        folder: string;
                        same: number;
                        written: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listParcels: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Place of the first among those found; instead of a cursor. */
                first?: number;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Only parcels whose newest message is in this state, or that have none. */
                message?: "held" | "queued" | "sending" | "sent" | "refused" | "unsure" | "skipped" | "returned" | "none";
                /** @description Part of a group's name, an address or a file's name. */
                search?: string;
                /** @description Beside the period before: only groups that are new, that moved much, or whose files have another size. */
                since?: "new" | "moved" | "resized";
                /** @description Field to sort by; a leading `-` sorts downwards. */
                sort?: "number" | "-number" | "label" | "-label" | "rowCount" | "-rowCount" | "bytes" | "-bytes" | "moved" | "-moved";
                state?: "planned" | "made" | "failed";
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["ParcelSummary"][];
                        next: string | null;
                        total: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showParcel: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Parcel"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listParcelRows: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                id: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Rows"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    pauseRun: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Run"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    printRun: {
        parameters: {
            query?: {
                group?: string;
                /** @description Whether each file begins on a sheet of its own. */
                sheets?: boolean;
            };
            header?: never;
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/pdf": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    releaseRun: {
        parameters: {
            query?: never;
            header?: {
                /** @description Any text of one's own: the same call with the same key is done once, and answered alike, for a day. */
                "Idempotency-Key"?: string;
            };
            path: {
                id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Not now but then; null takes a time back. */
                    at?: string | null;
                    /** @description Only these groups. */
                    groups?: string[];
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReleasedRun"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    resumeRun: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Run"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    skipGroups: {
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
                "application/json": {
                    groups: string[];
                    reason: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Run"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    stopRun: {
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
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Run"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    exportToWebFolder: {
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
                "application/json": {
                    groups?: string[];
                    password?: string;
                    /** Format: uri */
                    url: string;
                    user?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        put: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    search: {
        parameters: {
            query: {
                text: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SearchAnswer"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showSelf: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Self"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    changeSelf: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    language?: string | null;
                    shownName?: string;
                    zone?: string | null;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Self"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    addAuthenticator: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Six digits of the authenticator, or a recovery code, which works once. */
                    code: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        recoveryCodes: string[];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    beginAuthenticator: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    password?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        secret: string;
                        /** @description What the authenticator scans. */
                        uri: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    dropAuthenticator: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    password?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ok: boolean;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showFactors: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Factors"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listPasskeys: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Passkey"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    addPasskey: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    name: string;
                    response: {
                        [key: string]: unknown;
                    };
                    /** @description As it came with the options; good for five minutes, once. */
                    state: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        id: number;
                        recoveryCodes: string[];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    dropPasskey: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    password?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ok: boolean;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    beginPasskey: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    password?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PasskeyOptions"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    changePassword: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    new: string;
                    old: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ok: boolean;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    makeRecoveryCodes: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    password?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        recoveryCodes: string[];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listSessions: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["SignInSession"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    endOtherSessions: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ended: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    endSession: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ok: boolean;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showSession: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        name: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    signIn: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description Six digits of the authenticator, or a recovery code, which works once. */
                    code?: string;
                    name: string;
                    password: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        name: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    signOut: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ok: boolean;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    signInByPasskey: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    response: {
                        [key: string]: unknown;
                    };
                    /** @description As it came with the options; good for five minutes, once. */
                    state: string;
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        name: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    beginPasskeySignIn: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PasskeyOptions"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showWaysIn: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        passkeys: boolean;
                        provider: {
                            address: string;
                            title: string;
                        } | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showProvider: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptSignInProvider"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveProvider: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description The client's secret; the one that is kept stays without it. */
                    secret?: string;
                    settings: {
                        clientId: string;
                        /**
                         * @description What people of each group may do. Who is of several may do all of it; who is of none does not come in.
                         * @default []
                         */
                        groups?: {
                            group: string;
                            /** @description By role `all`, or the reports it is for. Who may prepare or release may look too, and who may look may ask. */
                            roles: {
                                ask?: "all" | string[];
                                look?: "all" | string[];
                                /** @constant */
                                operate?: "all";
                                prepare?: "all" | string[];
                                release?: "all" | string[];
                            };
                        }[];
                        /**
                         * @description The claim that tells somebody's groups; of one within others the way to it, such as `access.roles`.
                         * @default groups
                         */
                        groupsClaim?: string;
                        /**
                         * Format: uri
                         * @description As the provider calls itself, such as https://id.lifts.example.
                         */
                        issuer: string;
                        /** @default openid profile email */
                        scope?: string;
                        /**
                         * @description How long somebody is in before they come by the provider again.
                         * @default 12
                         */
                        sessionHours?: number;
                        /** @description What the button says: `Sign in by …`. */
                        title: string;
                        /**
                         * @description Whether people who were invited here are known by their mail address, where the provider has verified it.
                         * @default false
                         */
                        trustsAddresses?: boolean;
                    };
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptSignInProvider"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    deleteProvider: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ok: boolean;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listTemplates: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                /** @description Part of a name. */
                search?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Template"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showTemplate: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                file: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TemplateUsed"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveTemplate: {
        parameters: {
            query?: never;
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path: {
                file: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Template"];
                };
            };
            /** @description Made */
            201: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Template"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadTemplate: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                file: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listMarks: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
                report?: string;
            };
            header?: never;
            path: {
                file: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Mark"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    printTemplate: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                file: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/pdf": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listPlaces: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path: {
                file: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["TemplatePlace"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listTokens: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Token"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    addToken: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /**
                     * @description How long it works; null for ever.
                     * @default 366
                     */
                    days?: number | null;
                    name: string;
                    /** @default 600 */
                    perMinute?: number | null;
                    /** @description By role `all`, or the reports it is for. Who may prepare or release may look too, and who may look may ask. */
                    roles?: {
                        ask?: "all" | string[];
                        look?: "all" | string[];
                        /** @constant */
                        operate?: "all";
                        prepare?: "all" | string[];
                        release?: "all" | string[];
                    };
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ToldToken"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    revokeToken: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        ok: boolean;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    rotateToken: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                id: number;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @default 0 */
                    keepHours?: number;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ToldToken"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    putTogether: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    ids: string[];
                };
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        files: number;
                        /** @description Names what was made at /made, for a short while. */
                        id: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    compareWorkbooks: {
        parameters: {
            query: {
                /** @description Name of the file, for messages. */
                name?: string;
                /** @description Id of the file that is held: it counts as the first. */
                with: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        cells: number;
                        /** @description The first 2,000 of them. */
                        differences: {
                            /** @description A cell, or the name of a shape. */
                            cell: string;
                            first: string;
                            second: string;
                            /** @description A sheet, or the number of a slide. */
                            sheet: string;
                            what: string;
                        }[];
                        total: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    holdWorkbook: {
        parameters: {
            query?: {
                /** @description Name of the file, for messages. */
                name?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @description Names what was made at /made, for a short while. */
                        id: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    replaceWords: {
        parameters: {
            query?: {
                /** @description Without regard to capitals. */
                anyCase?: boolean;
                from?: string;
                /** @description Name of the file, for messages. */
                name?: string;
                /** @description Several words in one go, as JSON: [{"from": "Old Mill", "to": "New Mill"}, …]. */
                pairs?: string;
                to?: string;
                /** @description Only whole words. */
                whole?: boolean;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @description The first 2,000 changed cells. */
                        cells: {
                            after: string;
                            before: string;
                            cell: string;
                            sheet: string;
                        }[];
                        /** @description Names what was made at /made, for a short while. */
                        id: string;
                        total: number;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    takeSheetsApart: {
        parameters: {
            query?: {
                /** @description Name of the file, for messages. */
                name?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        findings: components["schemas"]["Finding"][];
                        /** @description Names what was made at /made, for a short while. */
                        id: string;
                        sheets: string[];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listTrail: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description An entry by its digest: one that was kept elsewhere and is not found tells of an end that was cut off. */
                hash?: string;
                /** @description Most items of one answer. */
                limit?: number;
                since?: string;
                /** @description Name or id of the thing. */
                subject?: string;
                until?: string;
                what?: string;
                /** @description Name of the person, or of what did it by itself. */
                who?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["TrailEntry"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listTrailWords: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        words: string[];
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    downloadTrail: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/jsonl": string;
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    uploadFile: {
        parameters: {
            query: {
                /** @description Name of the file, shown as the edition's origin. */
                file: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": string;
            };
        };
        responses: {
            /** @description Made */
            201: {
                headers: {
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Upload"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showUpload: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                upload: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Upload"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showVerification: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Verification"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    verifyStore: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Begun */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Verification"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listWatchers: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["Watcher"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveWatcher: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                watcher: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @description An address of mail, or one that is called by POST. */
                    address: string;
                    kinds: ("waits-for-release" | "run-stopped" | "run-failed" | "refused" | "nothing-came" | "nothing-to-send" | "schedule-missed" | "schedule-failed" | "halted")[];
                    /**
                     * @description When a summary goes out each day; at once if null.
                     * @default null
                     */
                    morning?: string | null;
                    /**
                     * @description Only of these reports; of all if null.
                     * @default null
                     */
                    reports?: string[] | null;
                    /** @description Of a callback: what it is signed with (HMAC-SHA-256, hexadecimal, in X-Signature). */
                    secret?: string;
                    /** @enum {string} */
                    way: "mail" | "callback";
                    /**
                     * @description Time zone of that time.
                     * @default UTC
                     */
                    zone?: string;
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Watcher"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    deleteWatcher: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                watcher: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @constant */
                        ok: true;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    listWaysOut: {
        parameters: {
            query?: {
                /** @description `next` of the answer before; search and order have to be the same as there. */
                cursor?: string;
                /** @description Most items of one answer. */
                limit?: number;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        items: components["schemas"]["WayOut"][];
                        next: string | null;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    showWayOut: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WayOut"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    saveWayOut: {
        parameters: {
            query?: never;
            header?: {
                /** @description The `ETag` of what was read: nothing is written where somebody else has written since (412). */
                "If-Match"?: string;
            };
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    /** @default {} */
                    secret?: {
                        /** @description Of the private key. */
                        passphrase?: string;
                        password?: string;
                        /** @description Of SFTP: private key as PEM or in OpenSSH's form. */
                        privateKey?: string;
                        /** @description Of HTTP: sent as a bearer token (RFC 6750). */
                        token?: string;
                    };
                    settings: {
                        /**
                         * @description Groups whose files are on their way at once.
                         * @default 2
                         */
                        connections?: number;
                        /**
                         * @description Seconds before the first new try; each further pause is twice as long, up to half an hour.
                         * @default 30
                         */
                        firstPause?: number;
                        /**
                         * @description Folder below the one the service may write to.
                         * @default
                         */
                        folder?: string;
                        /** @constant */
                        kind: "folder";
                        /**
                         * @description How long what cannot be put there for now is tried again.
                         * @default 48
                         */
                        patienceHours?: number;
                        /**
                         * @description Pace: groups a minute.
                         * @default 600
                         */
                        perMinute?: number;
                    } | {
                        /** Format: uri */
                        address: string;
                        /** @description Certificate authority of one's own, as PEM. */
                        authority?: string;
                        /**
                         * @description Groups whose files are on their way at once.
                         * @default 2
                         */
                        connections?: number;
                        /**
                         * @description Seconds before the first new try; each further pause is twice as long, up to half an hour.
                         * @default 30
                         */
                        firstPause?: number;
                        /** @constant */
                        kind: "web-dav";
                        /**
                         * @description How long what cannot be put there for now is tried again.
                         * @default 48
                         */
                        patienceHours?: number;
                        /**
                         * @description Pace: groups a minute.
                         * @default 600
                         */
                        perMinute?: number;
                        /** @description Sign-in there. */
                        user?: string;
                    } | {
                        /**
                         * @description Groups whose files are on their way at once.
                         * @default 2
                         */
                        connections?: number;
                        /**
                         * @description Seconds before the first new try; each further pause is twice as long, up to half an hour.
                         * @default 30
                         */
                        firstPause?: number;
                        /**
                         * @description Folder there; the one after signing in if left out.
                         * @default
                         */
                        folder?: string;
                        host: string;
                        /** @description Fingerprint of the server's key; a server with another one is not spoken to. */
                        hostKey: string;
                        /** @constant */
                        kind: "sftp";
                        /**
                         * @description How long what cannot be put there for now is tried again.
                         * @default 48
                         */
                        patienceHours?: number;
                        /**
                         * @description Pace: groups a minute.
                         * @default 600
                         */
                        perMinute?: number;
                        /** @default 22 */
                        port?: number;
                        user: string;
                    } | {
                        /**
                         * Format: uri
                         * @description PUT: each file's path is added to it. POST: every file goes to it.
                         */
                        address: string;
                        /** @description Certificate authority of one's own, as PEM. */
                        authority?: string;
                        /**
                         * @description Groups whose files are on their way at once.
                         * @default 2
                         */
                        connections?: number;
                        /**
                         * @description Seconds before the first new try; each further pause is twice as long, up to half an hour.
                         * @default 30
                         */
                        firstPause?: number;
                        /**
                         * @description Further headers of each request; none that hold a secret.
                         * @default {}
                         */
                        headers?: {
                            [key: string]: string;
                        };
                        /** @constant */
                        kind: "http";
                        /**
                         * @description PUT can be repeated safely; of a POST whose answer is lost nobody knows.
                         * @default PUT
                         * @enum {string}
                         */
                        method?: "PUT" | "POST";
                        /**
                         * @description How long what cannot be put there for now is tried again.
                         * @default 48
                         */
                        patienceHours?: number;
                        /**
                         * @description Pace: groups a minute.
                         * @default 600
                         */
                        perMinute?: number;
                        /** @description Sign-in there. */
                        user?: string;
                    };
                };
            };
        };
        responses: {
            /** @description Done */
            200: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WayOut"];
                };
            };
            /** @description Made */
            201: {
                headers: {
                    /** @description Version, for If-Match. */
                    ETag?: string;
                    /** @description Where the new thing is. */
                    Location?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WayOut"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    removeWayOut: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        name: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    pauseWayOut: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WayOut"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    resumeWayOut: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WayOut"];
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    tryWayOut: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Done */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        /** @description What came of it. */
                        words: string;
                    };
                };
            };
            /** @description What went wrong, where, and what to do */
            default: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
}
