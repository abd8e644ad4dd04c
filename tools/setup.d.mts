export declare const root: string;
export declare function ensureInstalled(log?: (text: string) => void): void;
export declare function ensureBuilt(log?: (text: string) => void): void;
export declare function ensureDebianPackages(log?: (text: string) => void): void;
export declare function bin(name: string): string;
