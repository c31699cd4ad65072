declare module 'assimpjs' {
  interface Result {
    IsSuccess(): boolean;
    GetErrorCode(): string;
    GetFile(index: number): { GetContent(): Uint8Array };
  }
  interface FileList {
    AddFile(name: string, bytes: Uint8Array): void;
  }
  export default function assimpjs(): Promise<{
    FileList: new () => FileList;
    ConvertFileList(files: FileList, format: string): Result;
  }>;
}
