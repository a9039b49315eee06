using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>Which setting of a device a note of the ledger is about, and where its model has it set (C46).</summary>
public static class SettingsTouched
{
    /// <summary>Of a note; null where it is about none, or a model does not say.</summary>
    public static string? Of(string code) =>
        code switch
        {
            "ledger.address-differs"
            or "ledger.leased-in-fixed-plan"
            or "ledger.leased-needs-reservation"
            or "ledger.leased-and-asked-for"
            or "ledger.moved-at-start" => "address",
            _ when code.StartsWith("ledger.found.mask", StringComparison.Ordinal)
                    || code.StartsWith("ledger.found.gateway", StringComparison.Ordinal)
                    || code.StartsWith("ledger.found.factoryAddress", StringComparison.Ordinal)
                    || code is "ledger.found.outsideSubnet" or "ledger.found.addressLinkLocalNoLease" => "address",
            "ledger.factory-login-opens" or "ledger.open-to-all" or "ledger.own-login-refused" or "ledger.login-shared" => "login",
            "ledger.time-by-hand"
            or "ledger.clock-ahead"
            or "ledger.clock-behind"
            or "ledger.clock-step-ahead"
            or "ledger.clock-step-behind" => "time",
            "ledger.stream-not-as-said" => "stream",
            _ => null,
        };

    /// <summary>Walkdown sets what a device's own page sets; what only the recorder or a hand can set it leaves.</summary>
    /// <param name="places">Of the model; a setting that none names is set like the others.</param>
    /// <param name="setting">Which; null: none that a model names.</param>
    public static bool CanBeSet(ImmutableArray<SettingPlace> places, string? setting) =>
        places.FirstOrDefault(p => p.Setting == setting) is not { At.IsEmpty: false } place || place.At.Contains("page");

    /// <summary>Where each setting that notes are about is set, in words; of a setting that the model does not name, nothing.</summary>
    public static ImmutableArray<Message> Told(ImmutableArray<SettingPlace> places, IEnumerable<LedgerNote> notes)
    {
        var touched = notes.Select(n => Of(n.Code)).OfType<string>().ToHashSet();
        return [.. places.Where(p => touched.Contains(p.Setting)).Select(p => p.Told()).OfType<Message>()];
    }
}
