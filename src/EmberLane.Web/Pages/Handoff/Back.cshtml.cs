using System.Globalization;
using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using EmberLane.Web.Uploads;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages.Handoff;

/// <summary>A list comes back from an editor: what it changed is shown against the version that left, and taken over.</summary>
[Needs(Rights.Order)]
public sealed class BackModel(Footage footage, Desk desk, Returns returns, StoryTable table) : RoomModel(footage, desk)
{
    private readonly Footage footage = footage;
    private Func<Card, string>? said;

    public override string Room => "Handoff";

    public StoredStory Stored { get; private set; } = null!;

    /// <summary>The version that left, as it was typed or as the story is now.</summary>
    public string Version { get; private set; } = "";

    /// <summary>What came back; null before anything did.</summary>
    public ReturnedList? Returned { get; private set; }

    /// <summary>The lines of what changed, each with its number among all.</summary>
    public IEnumerable<(int Number, ComparedPiece Line)> Changes =>
        Returned is null ? [] : Returned.Lines.Index().Where(l => l.Item.Became != Became.Same);

    public int SameCount => Returned?.Lines.Count(l => l.Became == Became.Same) ?? 0;

    public string SaidOf(Piece piece) =>
        piece is not Card card ? StoryWords.Named(piece, _ => "")
        : card.BiteId == Core.Handoff.Back.WayBack.NoBite
            ? $"new: {footage.Sitting(card.SittingId)?.Title} from {card.Range.In} to {card.Range.Out}"
        : (said ??= table.Saying())(card);

    public void OnGet(string? key, string? version)
    {
        Load(version);
        if (key is { Length: > 0 })
        {
            Message = Read(() => Returned = returns.Compare(Stored, key, Whole(Version)));
        }
    }

    /// <summary>Brings a list in and shows what it changed, under an address of its own.</summary>
    [Needs(Rights.Order | Rights.HandOff)]
    public async Task<IActionResult> OnPostAsync(IFormFile? file, string? pasted, string? version)
    {
        Load(version);
        var key = "";
        try
        {
            var (_, text) = await TextUpload.ReadAsync(file, pasted, HttpContext.RequestAborted);
            key = returns.Keep(text);
            await TextUpload.InTimeAsync(_ => Task.FromResult(returns.Compare(Stored, key, Whole(Version))), HttpContext.RequestAborted);
        }
        catch (Exception bad) when (bad is FormatException or EditRefusedException)
        {
            return Bad(bad.Message);
        }
        catch (Exception bad) when (bad is IOException or UnauthorizedAccessException)
        {
            return Bad($"The list can not be kept: {bad.Message} Make room in the data folder, then bring it in again.");
        }
        return Redirect(
            FormattableString.Invariant($"/productions/{Production.Id}/handoff/back?key={key}&version={Uri.EscapeDataString(Version)}")
        );
    }

    /// <summary>Takes the ticked lines over, as one change.</summary>
    public IActionResult OnPostTake(string? key, string? version, int[] line)
    {
        Load(version);
        if (!ModelState.IsValid)
        {
            return Bad("The request names a line by something that is no number. Load the page again.");
        }
        try
        {
            var refused = Try(
                NewsOf.Story,
                () => returns.TakeOver(Desk.StoryToChange(Production, Who), key ?? "", Whole(Version), line.ToHashSet(), Who)
            );
            return refused is null
                ? Redirect(FormattableString.Invariant($"/productions/{Production.Id}/versions?was={Stored.Version}"))
                : Bad(refused);
        }
        catch (FormatException bad)
        {
            return Bad(bad.Message);
        }
    }

    private void Load(string? version)
    {
        Stored = Desk.StoryOf(Production, Who);
        Version = version is { Length: > 0 } ? version.Trim() : Stored.Version.ToString(CultureInfo.InvariantCulture);
    }

    private static string? Read(Action read)
    {
        try
        {
            read();
            return null;
        }
        catch (Exception bad) when (bad is FormatException or EditRefusedException)
        {
            return bad.Message;
        }
    }

    private static long Whole(string version) =>
        long.TryParse(version, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? number
            : throw new FormatException("The version is a whole number; the package's page and its manifest tell it.");

    private PageResult Bad(string why)
    {
        Message = why;
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }
}
