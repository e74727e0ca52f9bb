using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Mics;
using EmberLane.Core.People;
using EmberLane.Engines;
using EmberLane.Engines.Sync;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Gather;

/// <summary>The mics of a sitting: what each channel is, whose it is, and which make the sitting's sound.</summary>
[Needs(Rights.Log)]
public sealed class MicsModel(
    Footage footage,
    Grouping grouping,
    Desk desk,
    Mics mics,
    SittingMics sittingMics,
    MicNames micNames,
    MediaCache cache,
    SourceFiles files,
    Jobs jobs,
    Listening listening
) : LiveRoom(footage, desk)
{
    private const int LongestName = 80;

    private static readonly MediaTime Listened = MediaTime.FromMilliseconds(10_000);

    private readonly Footage footage = footage;

    public override string Room => "Gather";

    public Sitting Sitting { get; private set; } = null!;

    public MicsOfSitting Found { get; private set; } = null!;

    public IReadOnlyDictionary<long, Source> Sources { get; private set; } = new Dictionary<long, Source>();

    public IReadOnlyCollection<string> People { get; private set; } = [];

    /// <summary>Whether the mix as it is now can be played, or is being made.</summary>
    public bool Playable { get; private set; }

    public bool Making { get; private set; }

    private Dictionary<(long Source, int Channel), KnownChannel> channels = [];

    public ChannelSound? Sound(Mic mic) => channels[(mic.SourceId, mic.Channel)].Sound;

    public IActionResult OnGet(long sitting) =>
        !Load(sitting) ? NotFound()
        : IsFragment ? Partial("_Mics", this)
        : Page();

    /// <summary>Ten seconds of one channel, from a third of the file on.</summary>
    [Needs(Rights.Listen)]
    public async Task<IActionResult> OnGetListenAsync(long sitting, long source, int channel)
    {
        if (!Load(sitting) || !Sources.TryGetValue(source, out var found) || channel < 0 || channel >= found.Facts.Channels)
        {
            return NotFound();
        }
        using var turn = listening.Take();
        if (turn is null)
        {
            return Refused(Listening.Busy, StatusCodes.Status429TooManyRequests);
        }
        try
        {
            var samples = await SoundExtract.ReadAsync(
                files.Open(found),
                found.Facts,
                new MediaTime(found.Facts.Duration.Units / 3),
                Listened,
                HttpContext.RequestAborted,
                channel
            );
            return File(SoundExtract.Wav(samples, samples, apart: false), "audio/wav");
        }
        catch (Exception failed) when (failed is ToolException or FileNotFoundException)
        {
            return Refused(failed.Message);
        }
    }

    public IActionResult OnPostSet(long sitting, long source, int channel, string what, MicKind? kind, string? person, bool heard)
    {
        var before = PersonOf(sitting, source, channel);
        var answer = Change(
            sitting,
            () =>
            {
                var name = MicGuess.WholeName(person ?? "", sittingMics.People(Production.Id));
                if (name.Length > LongestName)
                {
                    throw new EditRefusedException("A name takes at most 80 characters.");
                }
                grouping.SetMic(
                    Production.Id,
                    source,
                    channel,
                    choice =>
                        what switch
                        {
                            "heard" => choice with { Heard = heard },
                            "kind" when kind is { } chosen && Enum.IsDefined(chosen) => choice with
                            {
                                Kind = chosen,
                                Person = chosen == MicKind.Lav ? choice.Person : "",
                            },
                            "person" => choice with { Person = name },
                            _ => throw new EditRefusedException("A mic has a kind, a person, and is heard or not."),
                        },
                    Who
                );
                return null;
            }
        );
        return
            SittingHere(sitting) is { } here
            && PersonOf(sitting, source, channel) is var now
            && now != before
            && micNames.Follows(here, new MicOfFile(source, channel), before, now)
            && Try(NewsOf.Words, () => micNames.Follow(here, new MicOfFile(source, channel), before, now, Who)) is { } refused
            ? Refused(refused)
            : answer;
    }

    private string PersonOf(long sitting, long source, int channel) =>
        SittingHere(sitting) is { } here
            ? sittingMics.Of(here).All.FirstOrDefault(m => m.SourceId == source && m.Channel == channel)?.Person ?? ""
            : "";

    public IActionResult OnPostUndo(long sitting, bool redo) =>
        Change(sitting, () => StepWords.Of(grouping.Step(Production.Id, redo, Who), redo));

    private IActionResult Change(long sitting, Func<string?> change)
    {
        if (SittingHere(sitting) is null)
        {
            return NotFound();
        }
        string? said = null;
        var refused = Try(NewsOf.Gather, () => said = change());
        if (refused is not null && IsFragment)
        {
            return Refused(refused);
        }
        Message = refused ?? said;
        if (!Load(sitting))
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather"));
        }
        if (!IsFragment && Message is null)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/gather/mics/{sitting}"));
        }
        return IsFragment ? Partial("_Mics", this) : Page();
    }

    private bool Load(long sitting)
    {
        if (SittingHere(sitting) is not { } here)
        {
            return false;
        }
        Sitting = here;
        var sources = footage.SourcesOf(sitting);
        Sources = sources.ToDictionary(s => s.Id);
        channels = mics.Channels(sources).ToDictionary(c => (c.SourceId, c.Channel));
        Found = sittingMics.Of(here);
        People = sittingMics.People(Production.Id);
        Playable = Found.Placed.Count > 0 && cache.IsWhole(cache.SittingSound(Found.Key));
        Making = !Playable && jobs.Newest(WorkKinds.Sound, sitting) is { IsOpen: true };
        return true;
    }
}
