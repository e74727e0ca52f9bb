namespace EmberLane.Application.Work;

/// <summary>The kinds of background work.</summary>
public static class WorkKinds
{
    /// <summary>Names of work, as jobs keep them.</summary>
    public const string Pictures = "pictures",
        Sync = "sync",
        Transcribe = "transcribe",
        Folder = "folder",
        Mics = "mics",
        Sound = "sound",
        Alike = "alike",
        Files = "files",
        Find = "find",
        Said = "said",
        Voices = "voices",
        Talk = "talk",
        Look = "look",
        Tag = "tag",
        Copy = "copy",
        Shown = "shown";
}
