using System.Globalization;
using EmberLane.Application.Gathering;

namespace EmberLane.Application.Work;

/// <summary>Keeps room on the disk for what people do: work that would fill it is stopped with the reason.</summary>
public sealed class DiskReserve(Options options, IDiskSpace disk)
{
    /// <summary>Room that nothing but the database may use, in bytes (512 MiB).</summary>
    public const long Bytes = 512L << 20;

    private static readonly TimeSpan BetweenLooks = TimeSpan.FromMilliseconds(250);

    /// <summary>Whether less than the reserve is free on the disk of the data folder.</summary>
    public bool IsShort => disk.FreeBytes(options.Data) < Bytes;

    /// <summary>Why background work waits, and what to do.</summary>
    public string Words =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"The disk of {options.Data} has {disk.FreeBytes(options.Data) / 1_000_000:N0} MB left; {Bytes / 1_000_000:N0} MB are kept for "
                + $"what people do, so the work was stopped. Make room, then try again: it goes on where it was."
        );

    /// <summary>
    /// Looks at the disk until it is disposed, and cancels <paramref name="work"/> when it runs short; <see cref="Guard.Struck"/> tells.
    /// </summary>
    public Guard Watch(CancellationTokenSource work) => new(this, work);

    /// <summary>A look at the disk every quarter of a second.</summary>
    public sealed class Guard : IDisposable
    {
        private readonly Timer timer;

        internal Guard(DiskReserve reserve, CancellationTokenSource work) =>
            timer = new Timer(_ => Look(reserve, work), null, TimeSpan.Zero, BetweenLooks);

        /// <summary>Whether the work was stopped for want of room.</summary>
        public bool Struck { get; private set; }

        /// <inheritdoc/>
        public void Dispose()
        {
            using var gone = new ManualResetEvent(false);
            if (timer.Dispose(gone))
            {
                gone.WaitOne();
            }
        }

        private void Look(DiskReserve reserve, CancellationTokenSource work)
        {
            if (!Struck && reserve.IsShort)
            {
                Struck = true;
                work.Cancel();
            }
        }
    }
}
