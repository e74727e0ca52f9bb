namespace EmberLane.Application.Gathering;

/// <summary>How much room a folder's disk has; a fake in tests.</summary>
public interface IDiskSpace
{
    /// <summary>Bytes that this account may still write on the disk of a folder.</summary>
    long FreeBytes(string folder);
}

/// <summary>The room as the system tells it.</summary>
public sealed class DiskSpace : IDiskSpace
{
    /// <inheritdoc/>
    public long FreeBytes(string folder) => new DriveInfo(folder).AvailableFreeSpace;
}
