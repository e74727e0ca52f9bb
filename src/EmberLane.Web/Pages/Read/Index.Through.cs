using System.Globalization;
using EmberLane.Core.People;
using EmberLane.Web.Access;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <content>What of a sitting was read or heard at this page.</content>
public sealed partial class IndexModel
{
    private const int MostRanges = 2_000;

    /// <summary>Notes stretches that were read, as <c>from-to</c> in milliseconds of the sitting, with commas between.</summary>
    [Needs(Rights.Mark | Rights.Log)]
    public IActionResult OnPostRead(long sitting, string? ranges)
    {
        if (SittingHere(sitting) is null)
        {
            return NotFound();
        }
        var read = new List<SittingRange>();
        foreach (var range in (ranges ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries))
        {
            if (
                range.Split('-') is not [var begin, var end]
                || !Milliseconds(begin, out var from)
                || !Milliseconds(end, out var to)
                || to < from
                || read.Count == MostRanges
            )
            {
                return Refused("What was read comes as from-to in milliseconds, with commas between.", StatusCodes.Status400BadRequest);
            }
            read.Add(new SittingRange(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to))));
        }
        readTimes.Add(sitting, Who, read);
        return StatusCode(StatusCodes.Status204NoContent);

        // Up to a thousand hours.
        static bool Milliseconds(string text, out long value) =>
            long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out value) && value <= 3_600_000_000;
    }
}
