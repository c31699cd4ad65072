declare const flags: string[];
export = flags;
