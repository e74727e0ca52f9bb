using EmberLane.Core;
using EmberLane.Core.People;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>Accounts, what they are where, and what lets people in.</summary>
public sealed class PeopleStoreTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-people").FullName;
    private readonly Clock clock = new();
    private readonly Accounts accounts;
    private readonly Members members;
    private readonly Admissions admissions;
    private readonly DoorLog log;
    private readonly long production,
        other,
        wren;
    private byte secrets;

    public PeopleStoreTests()
    {
        var database = new Database(Path.Combine(folder, "ember.sqlite"));
        (accounts, members, admissions, log) = (
            new Accounts(database, clock),
            new Members(database, clock),
            new Admissions(database, clock),
            new DoorLog(database, clock)
        );
        var footage = new Footage(database, clock);
        (production, other) = (footage.AddProduction("Slack Water"), footage.AddProduction("Night Trains"));
        wren = accounts.MakeOwner("Wren Adair", "hash", "first");
    }

    [Fact]
    public void No_link_is_named_as_one_before_it_was_also_when_that_was_withdrawn()
    {
        long Make(string label, AdmissionKind kind = AdmissionKind.Link, long? at = null) =>
            admissions.Make(new NewAdmission(kind, label, clock.GetUtcNow().AddDays(3), at ?? production), [++secrets], "Wren Adair");
        admissions.Withdraw(Make("Screening"), "Wren Adair");
        var refused = Assert.Throws<EditRefusedException>(() => Make("screening"));
        Assert.Contains("There was a link for screening before", refused.Message, StringComparison.Ordinal);
        Make("Screening, June");
        Make("Screening", AdmissionKind.Invitation);
        Make("Screening", at: other);
    }

    [Fact]
    public void A_link_keeps_what_it_shows()
    {
        LinkScope[] scopes = [LinkScope.All, LinkScope.OfSitting(7), LinkScope.OfStory(9)];
        foreach (var scope in scopes)
        {
            var id = admissions.Make(
                new NewAdmission(
                    AdmissionKind.Link,
                    FormattableString.Invariant($"Screening {secrets}"),
                    clock.GetUtcNow().AddDays(3),
                    production,
                    Rights: Rights.Read,
                    Shows: scope
                ),
                [++secrets],
                "Wren Adair"
            );
            Assert.Equal(scope, admissions.Get(id)!.Shows);
        }
        Assert.Equal(scopes.Reverse(), admissions.OpenOf(production).Select(a => a.Shows));
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private long Invite(Role role, string label = "somebody", int days = 7, string by = "Wren Adair") =>
        admissions.Make(
            new NewAdmission(AdmissionKind.Invitation, label, clock.GetUtcNow().AddDays(days), ProductionId: production, Role: role),
            [++secrets],
            by
        );

    private long Join(string name, Role role) => admissions.Accept(Invite(role, name), null, name, "hash", "stamp");

    [Fact]
    public void There_is_one_first_owner_however_many_try()
    {
        Assert.Throws<EditRefusedException>(() => accounts.MakeOwner("Somebody Else", "hash", "second"));
        Assert.Single(accounts.All());
    }

    [Fact]
    public void Of_two_owners_who_take_each_other_out_the_second_is_refused()
    {
        var ida = Join("Ida Loom", Role.Guest);
        accounts.SetOwner(ida, true, "Wren Adair");
        accounts.SetOwner(wren, false, "Ida Loom");
        var refused = Assert.Throws<EditRefusedException>(() => accounts.SetOwner(ida, false, "Wren Adair"));
        Assert.Contains("not an owner any more", refused.Message, StringComparison.Ordinal);
        Assert.Throws<EditRefusedException>(() => accounts.Close(ida, "x", "Wren Adair"));
        Assert.Throws<EditRefusedException>(() => accounts.Close(ida, "x", "Ida Loom"));
        Assert.Throws<EditRefusedException>(() => accounts.SetOwner(ida, false, "Ida Loom"));
        Assert.True(accounts.HasOwner());
        Assert.True(accounts.Get(ida)!.IsOwner);
    }

    [Fact]
    public void An_invitation_makes_one_account_and_one_only()
    {
        var invitation = Invite(Role.Logger);
        var ida = admissions.Accept(invitation, null, "Ida Loom", "hash", "stamp");
        Assert.Equal(Role.Logger, members.RolesOf(ida)[production]);
        Assert.Throws<EditRefusedException>(() => admissions.Accept(invitation, null, "Bo Tarn", "hash", "stamp"));
        Assert.Null(accounts.Named("Bo Tarn"));
        Assert.Empty(admissions.OpenOf(production));
    }

    [Fact]
    public void A_name_that_is_taken_leaves_the_invitation_as_it_was()
    {
        var invitation = Invite(Role.Guest);
        Assert.Throws<EditRefusedException>(() => admissions.Accept(invitation, null, "WREN adair", "hash", "stamp"));
        Assert.Single(admissions.OpenOf(production));
        Assert.Equal("Bo Tarn", accounts.Get(admissions.Accept(invitation, null, "Bo Tarn", "hash", "stamp"))!.Name);
    }

    [Fact]
    public void Who_is_in_a_production_already_is_not_made_less_by_an_invitation()
    {
        var ida = Join("Ida Loom", Role.Producer);
        var refused = Assert.Throws<EditRefusedException>(() => admissions.Accept(Invite(Role.Guest), ida, "Ida Loom", null, ""));
        Assert.Contains("producer", refused.Message, StringComparison.Ordinal);
        Assert.Equal(Role.Producer, members.RolesOf(ida)[production]);
    }

    [Fact]
    public void What_has_expired_or_was_withdrawn_makes_no_account()
    {
        var (late, withdrawn) = (Invite(Role.Guest, days: 1), Invite(Role.Guest));
        admissions.Withdraw(withdrawn, "Wren Adair");
        clock.Now += TimeSpan.FromDays(1);
        Assert.All([late, withdrawn], i => Assert.Throws<EditRefusedException>(() => admissions.Accept(i, null, "Bo Tarn", "h", "s")));
        Assert.Null(accounts.Named("Bo Tarn"));
        Assert.Empty(admissions.OpenOf(production));
    }

    [Fact]
    public void Who_runs_a_production_no_more_can_not_come_back_by_what_they_made()
    {
        var ida = Join("Ida Loom", Role.Producer);
        var theirs = Invite(Role.Producer, by: "Ida Loom");
        var ours = Invite(Role.Guest);
        members.Set(production, ida, Role.Director, "Wren Adair");
        Assert.Throws<EditRefusedException>(() => admissions.Accept(theirs, null, "Bo Tarn", "hash", "stamp"));
        admissions.Accept(ours, null, "Bo Tarn", "hash", "stamp");
    }

    [Fact]
    public void A_closed_account_is_in_no_production_and_its_name_is_not_given_again()
    {
        var ida = Join("Ida Loom", Role.Producer);
        accounts.Close(ida, "ended", "Wren Adair");
        Assert.Null(accounts.Get(ida));
        Assert.Empty(members.RolesOf(ida));
        Assert.Empty(members.Of(production));
        Assert.Throws<EditRefusedException>(() => Join("Ida Loom", Role.Guest));
        Assert.Contains(accounts.All(), a => a.Name == "Ida Loom" && a.ClosedAt is not null);
    }

    [Fact]
    public void Sessions_that_were_ended_are_not_brought_back_by_a_sign_in_under_way()
    {
        var before = accounts.Get(wren)!;
        accounts.EndSessions(wren, "second", "Wren Adair");
        before.LockedUntil = clock.GetUtcNow();
        Assert.False(accounts.Save(before));
        Assert.False(accounts.ChangePassword(before, "other", "third"));
        Assert.Equal(("second", "hash"), (accounts.Get(wren)!.Stamp, accounts.Get(wren)!.PasswordHash));
    }

    [Fact]
    public void Wrong_passwords_at_the_same_moment_are_all_counted()
    {
        Parallel.For(0, 20, _ => accounts.CountFailure(wren));
        Assert.Equal(20, accounts.Get(wren)!.Failed);
        accounts.ClearFailures(wren);
        Assert.Equal(0, accounts.Get(wren)!.Failed);
    }

    [Fact]
    public void A_new_password_ends_all_sessions_and_the_way_to_it_works_once()
    {
        var way = admissions.Make(
            new NewAdmission(AdmissionKind.NewPassword, "Wren Adair", clock.GetUtcNow().AddDays(2), AccountId: wren),
            [99],
            "the terminal"
        );
        accounts.CountFailure(wren);
        Assert.Equal(wren, admissions.Renew(way, "other", "second"));
        var now = accounts.Get(wren)!;
        Assert.Equal(("other", "second", 0), (now.PasswordHash, now.Stamp, now.Failed));
        Assert.Throws<EditRefusedException>(() => admissions.Renew(way, "third", "third"));
        Assert.Throws<EditRefusedException>(() => admissions.Renew(Invite(Role.Guest), "third", "third"));
    }

    [Fact]
    public void A_role_holds_in_its_production_only_and_each_change_is_written_down()
    {
        var ida = Join("Ida Loom", Role.Logger);
        members.Set(production, ida, Role.Editor, "Wren Adair");
        Assert.Equal([(production, Role.Editor)], members.RolesOf(ida).Select(r => (r.Key, r.Value)));
        Assert.Empty(members.Of(other));
        Assert.Equal("Ida Loom is editor now, was logger", log.Newest(1, productionId: production)[0].Said);
        Assert.Throws<EditRefusedException>(() => members.Set(production, ida, (Role)77, "Wren Adair"));
        Assert.Equal(Role.Editor, members.RolesOf(ida)[production]);
    }

    [Fact]
    public void A_passkey_stays_with_its_account()
    {
        var passkeys = new Passkeys(new Database(Path.Combine(folder, "ember.sqlite")), clock);
        var ida = Join("Ida Loom", Role.Guest);
        Assert.True(passkeys.Keep([1, 2], wren, "laptop", "{}"));
        Assert.False(passkeys.Keep([1, 2], ida, "mine now", "{}"));
        passkeys.Remove([1, 2], ida);
        Assert.Equal((wren, "laptop"), (passkeys.Find([1, 2])!.AccountId, passkeys.Find([1, 2])!.Name));
        Assert.All(Enumerable.Range(0, Passkeys.Most), n => Assert.True(passkeys.Keep([7, (byte)n], ida, "key", "{}")));
        Assert.False(passkeys.Keep([8], ida, "one more", "{}"));
    }

    [Fact]
    public void The_log_of_the_door_keeps_the_newest_lines_and_long_ones_are_cut()
    {
        log.Add(DoorEvent.Refused, new string('x', 500), new string('y', 5_000));
        var line = log.Newest(1)[0];
        Assert.InRange(line.Who.Length, 1, 80);
        Assert.InRange(line.Said.Length, 1, 300);
        Assert.Equal(line.Id, log.Newest(1, before: line.Id + 1)[0].Id);
    }
}
